import type { Preset } from '../preset'
import type { ParamMap } from '../values'
import { defaultParams, LANE_MODEL, type ChainNode, type Lane, type ParallelNode, type StageNode } from './description'

/** A lane's strip as the stage that it behaves as: its values are edited, overridden by snapshots and measured like any other's. */
export function stripOf({ id, on, params }: Lane): StageNode {
  const known = strips.get(params)
  if (known?.id === id && known.on === on) return known
  const strip: StageNode = { kind: 'stage', id, model: LANE_MODEL, on, params }
  strips.set(params, strip)
  return strip
}

/** The same object for the same values, whatever is edited within the lane: what shows a strip need not be drawn anew. */
const strips = new WeakMap<ParamMap, StageNode>()

export const createLane = (id: string, nodes: readonly ChainNode[] = [], params: ParamMap = {}): Lane => ({
  id,
  on: true,
  params: { ...defaultParams(LANE_MODEL), ...params },
  nodes,
})

/** A new stage with the catalogue's defaults. */
export const createStage = (id: string, model: string, params: ParamMap = {}): StageNode => ({
  kind: 'stage',
  id,
  model,
  on: true,
  params: { ...defaultParams(model), ...params },
})

/** All splits of a chain, outer ones first. */
export function splitsOf(nodes: readonly ChainNode[]): ParallelNode[] {
  return nodes.flatMap((node) => (node.kind === 'stage' ? [] : [node, ...node.lanes.flatMap((lane) => splitsOf(lane.nodes))]))
}

/** Stages and lane strips: everything that has values. */
export const partsOf = (nodes: readonly ChainNode[]): StageNode[] =>
  nodes.flatMap((node) => (node.kind === 'stage' ? [node] : node.lanes.flatMap((lane) => [stripOf(lane), ...partsOf(lane.nodes)])))

/** A stage, or the strip of a lane. */
export const findStage = (preset: Preset, id: string): StageNode | undefined => partsOf(preset.chain).find((s) => s.id === id)

/** @throws RangeError where it is not there */
export function requireStage(preset: Preset, id: string): StageNode {
  const stage = findStage(preset, id)
  if (!stage) throw new RangeError(`There is no stage “${id}” in this preset.`)
  return stage
}
