import { modelOf } from '@fulgor/core/catalogue'
import type { ParamValue } from '@fulgor/core/signal'
import { partsOf, type Preset } from './preset'
import { resolveStage } from './resolve'

/** One value that two snapshots do not share; `on` is told like a parameter. */
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
    const values = Object.keys(modelOf(stage.model).params).flatMap((key) =>
      one.params[key] === two.params[key] ? [] : [{ stage: stage.id, key, a: one.params[key], b: two.params[key] }],
    )
    return one.on === two.on ? values : [{ stage: stage.id, key: 'on', a: one.on, b: two.on }, ...values]
  })
}
