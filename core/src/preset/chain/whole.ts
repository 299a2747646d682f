import { modelOf } from '@fulgor/core/catalogue'
import type { Preset } from '../preset'
import type { BlockCells } from './block'
import { MAX_LANE_DEPTH, MAX_STAGES, stagesOf, type StageNode } from './description'
import { rowsOf } from './routing'

/** Families that fill a lane of their own with the effect alone: there the dry sound has its own lane. */
export const isEffect = (model: string): boolean => modelOf(model).voice === true

/** A stage that has a lane to itself: an effect gives its wet sound alone. */
export const wetAlone = (stage: StageNode): StageNode =>
  isEffect(stage.model) && 'mix' in stage.params ? { ...stage, params: { ...stage.params, mix: 100 } } : stage

/** @throws RangeError where what was put in makes more stages or deeper lanes than a preset holds */
export function checked(preset: Preset): Preset {
  if (stagesOf(preset.chain).length > MAX_STAGES) throw new RangeError(`A preset holds at most ${MAX_STAGES} stages.`)
  if (rowsOf(preset.chain).some((row) => row.depth > MAX_LANE_DEPTH))
    throw new RangeError(`Lanes may lie ${MAX_LANE_DEPTH} deep, not deeper.`)
  return preset
}

/** What was copied brings what its snapshots changed, where this preset has these snapshots. */
export function withCells(preset: Preset, cells: BlockCells): Preset {
  return {
    ...preset,
    snapshots: preset.snapshots.map((s) => (Object.hasOwn(cells, s.id) ? { ...s, stages: { ...s.stages, ...cells[s.id] } } : s)),
  }
}
