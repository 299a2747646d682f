import { blendId } from '@fulgor/core/cabinet'
import { BENCH_RESPONSE, createBench, modelOf } from '@fulgor/core/catalogue'
import type { ParamValue } from '@fulgor/core/signal'
import { noteMs } from '@fulgor/core/stage'
import { movedBy, type Positions } from './controls'
import { findSnapshot, partsOf, type ParamMap, type Preset, type StageNode } from './preset'

/** What a stage does in one snapshot. */
export interface ResolvedStage {
  readonly on: boolean
  /** As the player set them. */
  readonly params: ParamMap
}

/** Base with one snapshot's changes laid over it; `null` or an unknown snapshot is the base itself. */
export function resolveStage(preset: Preset, stage: StageNode, snapshotId: string | null): ResolvedStage {
  const override = findSnapshot(preset, snapshotId)?.stages[stage.id]
  if (!override) return { on: stage.on, params: stage.params }
  return { on: override.on ?? stage.on, params: override.params ? { ...stage.params, ...override.params } : stage.params }
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
      const { on, params } = overlaid(resolveStage(preset, stage, snapshotId), moved.get(stage.id))
      return [stage.id, { on, params: effectiveParams(stage, params, tempo) }]
    }),
  )
}

/** A stage's values with what is moved laid over them. */
export function overlaid(values: ResolvedStage, moved: ReadonlyMap<string, ParamValue | boolean> | undefined): ResolvedStage {
  if (!moved) return values
  const { on = values.on, ...params } = Object.fromEntries(moved)
  return { on: on === true, params: { ...values.params, ...(params as ParamMap) } }
}

/** One thing that a snapshot does differently on a stage. */
export type CellChange = { readonly key: 'on'; readonly value: boolean } | { readonly key: string; readonly value: ParamValue }

/** What a snapshot really changes on a stage: values equal to the base are left out. */
export function cellChanges(preset: Preset, stage: StageNode, snapshotId: string): CellChange[] {
  const override = findSnapshot(preset, snapshotId)?.stages[stage.id]
  if (!override) return []
  const changes: CellChange[] = []
  if (override.on !== undefined && override.on !== stage.on) changes.push({ key: 'on', value: override.on })
  for (const key of Object.keys(modelOf(stage.model).params)) {
    const value = override.params?.[key]
    if (value !== undefined && value !== stage.params[key]) changes.push({ key, value })
  }
  return changes
}
