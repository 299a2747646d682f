import { edit } from '../edit'
import type { Preset } from '../preset'
import type { StageOverride } from '../snapshots/description'
import type { BlockCells } from './block'
import { createStage, findStage, requireStage } from './chain'
import { LANE_MODEL, MAX_STAGES, stagesOf, type ChainNode } from './description'
import { removeLane, requireLane } from './laneEdits'
import { mapNodes, mapStage } from './map'
import { followModel, louder, remodelled } from './remodel'
import { findLane, placeOf, type Place } from './routing'
import { checked, isEffect, wetAlone, withCells } from './whole'

export const stageEdits = {
  addStage: edit<{ stage: string; model: string } & Place>((preset, { stage, model, lane, index }) => {
    if (stagesOf(preset.chain).length >= MAX_STAGES) throw new RangeError(`A preset holds at most ${MAX_STAGES} stages.`)
    if (findStage(preset, stage)) throw new RangeError('There is a stage with this id already.')
    const made = createStage(stage, model)
    const alone = lane !== null && stagesOf(requireLane(preset, lane).lane.nodes).every((s) => isEffect(s.model))
    return insertAt(preset, alone ? wetAlone(made) : made, { lane, index })
  }),
  removeStage: edit<{ stage: string }>((preset, { stage }) => removeStage(preset, stage), { removes: true }),
  /** Stages and lanes at once; those that go with a lane before are no error. */
  removeStages: edit<{ stages: readonly string[] }>(
    (preset, { stages }) => stages.reduce((p, id) => (findStage(p, id) ? removeStage(p, id) : p), preset),
    { removes: true },
  ),
  /** What was copied, with ids of its own, and what snapshots change on it. */
  insertNodes: edit<{ nodes: readonly ChainNode[]; cells: BlockCells } & Place>((preset, { nodes, cells, lane, index }) =>
    withCells(checked(nodes.reduceRight((p, node) => insertAt(p, node, { lane, index }), preset)), cells),
  ),
  /** Stages of one lane, in their order; the place counts without them. */
  moveStages: edit<{ stages: readonly string[] } & Place>((preset, { stages: ids, lane, index }) => {
    const from = ids.map((id) => placeOf(preset, id)?.lane)
    if (from.some((l) => l === undefined || l !== from[0]))
      throw new RangeError('Only stages of the same lane, or of the main row, move together.')
    const stages = ids.map((id) => requireStage(preset, id))
    const without = mapNodes(preset, (node) => (ids.includes(node.id) ? [] : [node]))
    return stages.reduceRight((p, stage) => insertAt(p, stage, { lane, index }), without)
  }),
  moveStage: edit<{ stage: string } & Place>((preset, { stage: id, ...to }) => {
    const stage = requireStage(preset, id)
    const from = placeOf(preset, id)
    if (!from || (from.lane === to.lane && from.index === to.index)) return preset
    const without = mapNodes(preset, (node) => (node.id === id ? [] : [node]))
    const alone = to.lane !== null && to.lane !== from.lane && stagesOf(requireLane(without, to.lane).lane.nodes).length === 0
    return insertAt(without, alone ? wetAlone(stage) : stage, to)
  }),
  /** Another model in its place, turned up by so much; what is like-named stays, in cells and sources too. */
  changeModel: edit<{ stage: string; model: string; gainDb: number }>((preset, { stage, model, gainDb }) =>
    changeModel(preset, stage, model, gainDb),
  ),
  /** '' gives it back its model's name. */
  nameStage: edit<{ stage: string; name: string }>(
    (preset, { stage, name }) => mapStage(preset, stage, ({ name: _, ...s }) => (name === '' ? s : { ...s, name })),
    { joins: ({ stage }) => stage },
  ),
}

function insertAt(preset: Preset, node: ChainNode, { lane, index }: Place): Preset {
  const insert = (nodes: readonly ChainNode[]) => {
    const next = [...nodes]
    next.splice(Math.min(Math.max(index, 0), next.length), 0, node)
    return next
  }
  if (lane === null) return { ...preset, chain: insert(preset.chain) }
  requireLane(preset, lane)
  return mapNodes(
    preset,
    (n) => [n],
    (l) => (l.id === lane ? { ...l, nodes: insert(l.nodes) } : l),
  )
}

function changeModel(preset: Preset, id: string, model: string, gainDb: number): Preset {
  const before = requireStage(preset, id)
  if (before.model === LANE_MODEL || model === LANE_MODEL) throw new RangeError('A lane’s strip is what it is.')
  const next = followModel(
    mapStage(preset, id, (s) => louder(model, remodelled(s, model), gainDb)),
    before,
    model,
  )
  return {
    ...next,
    snapshots: next.snapshots.map((s) => {
      const own = s.stages[id] as StageOverride | undefined
      return own ? { ...s, stages: { ...s.stages, [id]: louder(model, own, gainDb) } } : s
    }),
  }
}

function removeStage(preset: Preset, id: string): Preset {
  requireStage(preset, id)
  if (findLane(preset, id)) return removeLane(preset, id)
  return mapNodes(preset, (node) => (node.id === id ? [] : [node]))
}
