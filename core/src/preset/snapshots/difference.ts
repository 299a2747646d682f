import { benchWords, blendId } from '@fulgor/core/cabinet'
import { BENCH_RESPONSE, createBench, modelOf } from '@fulgor/core/catalogue'
import type { ParamValue } from '@fulgor/core/signal'
import { partsOf } from '../chain/chain'
import type { Preset } from '../preset'
import { BENCH_KEY, resolveStage, type ResolvedStage } from './resolve'

/** One value that two snapshots do not share; `on` and `bench` are told like a parameter, a bench in words. */
export interface ValueDifference {
  readonly stage: string
  readonly key: string
  readonly a: ParamValue | boolean
  readonly b: ParamValue | boolean
}

/**
 * What changes at a switch from one snapshot to another, stage by stage from the top; null stands for the base. Values of a stage that is
 * off in both are not heard and left out.
 */
export function snapshotDifference(preset: Preset, a: string | null, b: string | null): ValueDifference[] {
  return partsOf(preset.chain).flatMap((stage) => {
    const [one, two] = [resolveStage(preset, stage, a), resolveStage(preset, stage, b)]
    if (!one.on && !two.on) return []
    const values = Object.keys(modelOf(stage.model).params).flatMap((key): ValueDifference[] =>
      one.params[key] === two.params[key] ? [] : [{ stage: stage.id, key, a: one.params[key], b: two.params[key] }],
    )
    const switched: ValueDifference[] = one.on === two.on ? [] : [{ stage: stage.id, key: 'on', a: one.on, b: two.on }]
    return [...switched, ...values, ...benchDifference(stage.id, one, two)]
  })
}

/** Told where both play the bench; elsewhere the response says it. */
function benchDifference(stage: string, one: ResolvedStage, two: ResolvedStage): ValueDifference[] {
  if (one.params.response !== BENCH_RESPONSE || two.params.response !== BENCH_RESPONSE) return []
  const [a, b] = [one.bench ?? createBench(), two.bench ?? createBench()]
  return blendId(a) === blendId(b) ? [] : [{ stage, key: BENCH_KEY, a: benchWords(a), b: benchWords(b) }]
}
