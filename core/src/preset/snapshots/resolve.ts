import { blendId, type MicBench } from '@fulgor/core/cabinet'
import { BENCH_RESPONSE, createBench, modelOf } from '@fulgor/core/catalogue'
import type { ParamValue } from '@fulgor/core/signal'
import { noteMs } from '@fulgor/core/stage'
import { partsOf } from '../chain/chain'
import type { StageNode } from '../chain/description'
import { movedBy, type Positions } from '../controls/controls'
import type { Preset } from '../preset'
import type { ParamMap } from '../values'
import { findSnapshot } from './snapshots'

/** What a stage does in one snapshot. */
export interface ResolvedStage {
  readonly on: boolean
  /** As the player set them. */
  readonly params: ParamMap
  /** Of a cabinet that was at the bench. */
  readonly bench?: MicBench
  /** While it is judged: dB that what passes it is turned by while it is off. */
  readonly passDb?: number
}

/** Base with one snapshot's changes laid over it; `null` or an unknown snapshot is the base itself. */
export function resolveStage(preset: Preset, stage: StageNode, snapshotId: string | null): ResolvedStage {
  const { on = stage.on, params, bench = stage.bench } = findSnapshot(preset, snapshotId)?.stages[stage.id] ?? {}
  return { on, params: params ? { ...stage.params, ...params } : stage.params, ...(bench ? { bench } : {}) }
}

/**
 * What the processors get: note values turned into times and rates at the preset's tempo, then what follows from those, held inside
 * their ranges; a bench as the id of its blend.
 */
export function effectiveParams(stage: Pick<StageNode, 'model' | 'bench'>, params: ParamMap, tempo: number): ParamMap {
  if (params.response === BENCH_RESPONSE) return { ...params, response: blendId(stage.bench ?? createBench()) }
  const { sync = [], derived, params: specs } = modelOf(stage.model)
  const held = (key: string, value: number): ParamMap => {
    const spec = specs[key]
    return spec.kind === 'number' ? { [key]: Math.min(spec.max, Math.max(spec.min, value)) } : {}
  }
  let result = params
  for (const { time, note } of sync) {
    const value = params[note]
    const spec = specs[time]
    if (value === 'free' || typeof value !== 'string' || spec.kind !== 'number') continue
    const ms = noteMs(tempo, value)
    result = { ...result, ...held(time, spec.unit === 'hz' ? 1000 / ms : spec.unit === 's' ? ms / 1000 : ms) }
  }
  for (const [key, value] of Object.entries(derived?.(result) ?? {})) result = { ...result, ...held(key, value) }
  return result
}

/** bpm in a snapshot. */
export const tempoOf = (preset: Preset, snapshotId: string | null): number => findSnapshot(preset, snapshotId)?.tempo ?? preset.tempo

/**
 * Values of every stage in a snapshot as the processors get them, by stage id.
 * @param positions of the sources that were moved; what they move is laid over the snapshot's values
 */
export function resolveValues(preset: Preset, snapshotId: string | null, positions: Positions = {}): Record<string, ResolvedStage> {
  const tempo = tempoOf(preset, snapshotId)
  const moved = movedBy(preset, snapshotId, positions)
  return Object.fromEntries(
    partsOf(preset.chain).map((stage) => {
      const { on, params, bench } = overlaid(resolveStage(preset, stage, snapshotId), moved.get(stage.id))
      return [stage.id, { on, params: effectiveParams({ model: stage.model, bench }, params, tempo) }]
    }),
  )
}

/** A stage's values with what is moved laid over them. */
export function overlaid(values: ResolvedStage, moved: ReadonlyMap<string, ParamValue | boolean> | undefined): ResolvedStage {
  if (!moved) return values
  const { on = values.on, ...params } = Object.fromEntries(moved)
  return { ...values, on: on === true, params: { ...values.params, ...(params as ParamMap) } }
}

/** One thing that a snapshot holds for itself on a stage. */
export type CellChange =
  | { readonly kind: 'on'; readonly key: 'on'; readonly value: boolean }
  | { readonly kind: 'param'; readonly key: string; readonly value: ParamValue }
  | { readonly kind: 'bench'; readonly key: typeof BENCH_KEY; readonly value: MicBench }

/** Stands for a cabinet's bench among the keys of its parameters. */
export const BENCH_KEY = 'bench'

/** What a snapshot holds for itself on a stage; also where the base happens to have the same. */
export function cellChanges(preset: Preset, stage: StageNode, snapshotId: string): CellChange[] {
  const { on, params, bench } = findSnapshot(preset, snapshotId)?.stages[stage.id] ?? {}
  return [
    ...(on === undefined ? [] : [{ kind: 'on', key: 'on', value: on } as const]),
    ...Object.keys(modelOf(stage.model).params).flatMap((key) =>
      params?.[key] === undefined ? [] : [{ kind: 'param', key, value: params[key] } as const],
    ),
    ...(bench ? [{ kind: 'bench', key: BENCH_KEY, value: bench } as const] : []),
  ]
}
