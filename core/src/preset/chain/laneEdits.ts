import { edit } from '../edit'
import type { Preset } from '../preset'
import { createLane, requireStage } from './chain'
import type { BlockCells } from './block'
import { MAX_LANES, type Lane, type ParallelNode } from './description'
import { mapNodes, mapSplit, moved } from './map'
import { canSplit, depthAt, findLane, placeOf } from './routing'
import { checked, wetAlone, withCells } from './whole'

export const laneEdits = {
  /** Puts a stage into the first lane of a new split; the second lane takes the stage `beside`, or passes what comes in. */
  split: edit<{ stage: string; split: string; lanes: readonly [string, string]; beside?: string }>(
    (whole, { stage, split, lanes, beside: other }) => {
      const beside = other === undefined ? undefined : requireStage(whole, other)
      const preset = beside ? mapNodes(whole, (node) => (node.id === beside.id ? [] : [node])) : whole
      const place = placeOf(preset, stage)
      if (!place) throw new RangeError(`There is no stage “${stage}” in this preset.`)
      if (!canSplit(preset, stage))
        throw new RangeError(`Lanes may lie two deep, not deeper: this stage already stands ${depthAt(preset, place.lane)} deep.`)
      return mapNodes(preset, (node) => {
        if (node.id !== stage) return [node]
        const own = node.kind === 'stage' ? wetAlone(node) : node
        const both = [createLane(lanes[0], [own]), createLane(lanes[1], beside ? [wetAlone(beside)] : [])]
        return [{ kind: 'parallel', id: split, lanes: both }]
      })
    },
  ),
  addLane: edit<{ split: string; lane: string }>((preset, { split, lane }) =>
    mapSplit(preset, split, (s) => ({ ...s, lanes: [...withRoom(s), createLane(lane)] })),
  ),
  insertLane: edit<{ split: string; index: number; lane: Lane; cells: BlockCells }>((preset, { split, index, lane, cells }) =>
    withCells(
      checked(mapSplit(preset, split, (s) => ({ ...s, lanes: [...withRoom(s).slice(0, index), lane, ...s.lanes.slice(index)] }))),
      cells,
    ),
  ),
  moveLane: edit<{ lane: string; index: number }>((preset, { lane, index }) => {
    const { split } = requireLane(preset, lane)
    const from = split.lanes.findIndex((l) => l.id === lane)
    return mapSplit(preset, split.id, (s) => ({ ...s, lanes: moved(s.lanes, from, index) }))
  }),
  removeLane: edit<{ lane: string }>((preset, { lane }) => removeLane(preset, lane), { removes: true }),
  /** The stages of all lanes go into one row. */
  dissolve: edit<{ split: string }>(
    (preset, { split }) =>
      mapNodes(preset, (node) => (node.id === split && node.kind === 'parallel' ? node.lanes.flatMap((l) => l.nodes) : [node])),
    { removes: true },
  ),
}

function withRoom({ lanes }: ParallelNode): readonly Lane[] {
  if (lanes.length >= MAX_LANES) throw new RangeError(`A split holds at most ${MAX_LANES} lanes.`)
  return lanes
}

/** @throws RangeError where it is not there */
export function requireLane(preset: Preset, id: string): { lane: Lane; split: ParallelNode } {
  const found = findLane(preset, id)
  if (!found) throw new RangeError(`There is no lane “${id}” in this preset.`)
  return found
}

/** A split of one lane is none: its stages go back into the row. */
export function removeLane(preset: Preset, id: string): Preset {
  const { split } = requireLane(preset, id)
  const lanes = split.lanes.filter((lane) => lane.id !== id)
  return mapNodes(preset, (node) => {
    if (node.id !== split.id || node.kind !== 'parallel') return [node]
    return lanes.length === 1 ? lanes[0].nodes : [{ ...node, lanes }]
  })
}
