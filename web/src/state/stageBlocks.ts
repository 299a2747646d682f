import {
  copyStages,
  findLane,
  findStage,
  partsOf,
  freshBlock,
  laneAround,
  placeOf,
  resolveStage,
  stepPlace,
  type Edit,
  type Place,
  type Preset,
  type StageBlock,
} from '@fulgor/core/preset'
import { edit, landsIn, newId, presentPreset } from './actions'
import { stageChosen } from './editor'
import { placeFor } from './placing'
import type { Thunk } from './store'

/** The edit that puts a lane beside a row: as one more of its split, or as a new split around it. */
function laneEdit(preset: Preset, block: StageBlock, beside: string): Edit | null {
  const { lane, cells } = block
  const around = findLane(preset, beside)?.lane ?? laneAround(preset, beside)
  const split = around ? findLane(preset, around.id)?.split : undefined
  if (!lane) return null
  if (split && around) return { type: 'insertLane', split: split.id, index: split.lanes.indexOf(around) + 1, lane, cells }
  const [id, first, second] = [newId(), newId(), newId()]
  return {
    type: 'all',
    edits: [
      { type: 'split', stage: beside, split: id, lanes: [first, second] },
      { type: 'insertLane', split: id, index: 1, lane, cells },
      { type: 'removeLane', lane: second },
    ],
  }
}

/** Puts a copied block behind the chosen row, a copied lane beside it, and chooses the first of it. */
export const pasteStages =
  (copied: StageBlock): Thunk =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    const { stage } = getState().editor
    if (!preset) return
    const block = freshBlock(copied, newId)
    const lane = block.lane && stage !== null ? laneEdit(preset, block, stage) : null
    dispatch(edit(lane ?? { type: 'insertNodes', nodes: block.nodes, cells: block.cells, ...placeFor(preset, stage).place }))
    const first = block.lane ?? block.nodes.at(0)
    if (first && presentPreset(getState()) !== preset && findStage(presentPreset(getState()) ?? preset, first.id))
      dispatch(stageChosen({ stage: first.id, fresh: true }))
  }

/** Copies of stages right behind the last of them. */
export const duplicateStages =
  (ids: readonly string[]): Thunk =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    const last = ids.at(-1)
    if (!preset || last === undefined) return
    dispatch(stageChosen({ stage: last }))
    dispatch(pasteStages(copyStages(preset, ids)))
  }

/** Takes stages and lanes out; the row behind them, or else the last one before, is chosen then. */
export const removeStages =
  (ids: readonly string[]): Thunk =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    if (!preset) return
    const before = partsOf(preset.chain).map((part) => part.id)
    dispatch(edit(ids.length === 1 ? { type: 'removeStage', stage: ids[0] } : { type: 'removeStages', stages: ids }))
    const after = presentPreset(getState()) ?? preset
    const left = before.filter((id) => findStage(after, id))
    const first = Math.min(...ids.map((id) => before.indexOf(id)))
    const next = left.find((id) => before.indexOf(id) > first) ?? left.at(-1)
    if (next !== undefined) dispatch(stageChosen({ stage: next }))
  }

/** Switches stages off, or on where all of them are off, in the lit snapshot or the base. */
export const bypassStages =
  (ids: readonly string[]): Thunk =>
  (dispatch, getState) => {
    const state = getState()
    const preset = presentPreset(state)
    if (!preset) return
    const stages = ids.flatMap((id) => findStage(preset, id) ?? [])
    const on = stages.every((stage) => !resolveStage(preset, stage, state.editor.snapshot).on)
    const edits = stages.map((stage) => ({ type: 'setOn', stage: stage.id, snapshot: landsIn(state, stage.id, 'on'), on }) as const)
    dispatch(edit(edits.length === 1 ? edits[0] : { type: 'all', edits }))
  }

/** Several stages to a place that was found for one of them, which counts without that one alone. */
export function moveTogether(preset: Preset, ids: readonly string[], lead: string, place: Place): Edit {
  const others = ids.filter((id) => id !== lead).flatMap((id) => placeOf(preset, id) ?? [])
  const from = placeOf(preset, lead)
  const shift = others.filter((o) => {
    if (o.lane !== place.lane) return false
    const index = from && from.lane === o.lane && o.index > from.index ? o.index - 1 : o.index
    return index < place.index
  }).length
  return { type: 'moveStages', stages: ids, lane: place.lane, index: place.index - shift }
}

/** Several stages one line up or down. */
export const stepStages =
  (ids: readonly string[], direction: 1 | -1): Thunk =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    const lead = direction === 1 ? ids.at(-1) : ids.at(0)
    const place = preset && lead !== undefined ? stepPlace(preset, lead, direction) : null
    if (preset && lead !== undefined && place) dispatch(edit(moveTogether(preset, ids, lead, place)))
  }
