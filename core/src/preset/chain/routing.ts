import type { Preset } from '../preset'
import { partsOf } from './chain'
import { MAX_LANE_DEPTH, type ChainNode, type Lane, type ParallelNode, type StageNode } from './description'

/** Where a node stands: in which lane (null: the main row), and as which of its nodes. */
export interface Place {
  readonly lane: string | null
  readonly index: number
}

/** A line of the Sheet: stages in the order of the signal, and where lanes begin and come together. */
export type Row =
  | { readonly kind: 'stage'; readonly id: string; readonly stage: StageNode; readonly place: Place; readonly depth: number }
  | {
      readonly kind: 'lane'
      readonly id: string
      readonly lane: Lane
      readonly number: number
      readonly split: ParallelNode
      readonly depth: number
    }
  | { readonly kind: 'join'; readonly id: string; readonly split: ParallelNode; readonly place: Place; readonly depth: number }

/** The chain as lines, top to bottom, lanes one after another. */
export function rowsOf(nodes: readonly ChainNode[], lane: string | null = null, depth = 0): Row[] {
  return nodes.flatMap((node, index): Row[] => {
    const place = { lane, index }
    if (node.kind === 'stage') return [{ kind: 'stage', id: node.id, stage: node, place, depth }]
    return [
      ...node.lanes.flatMap((l, number): Row[] => [
        { kind: 'lane', id: l.id, lane: l, number: number + 1, split: node, depth: depth + 1 },
        ...rowsOf(l.nodes, l.id, depth + 1),
      ]),
      { kind: 'join', id: node.id, split: node, place, depth },
    ]
  })
}

export const placeOf = (preset: Preset, id: string): Place | undefined => {
  const row = rowsOf(preset.chain).find((r) => r.id === id)
  return row && row.kind !== 'lane' ? row.place : undefined
}

/** The lane that holds a node, undefined for the main row or an unknown id. */
export function laneAround(preset: Preset, id: string): Lane | undefined {
  const lane = placeOf(preset, id)?.lane
  return lane ? findLane(preset, lane)?.lane : undefined
}

export function findLane(preset: Preset, id: string): { lane: Lane; split: ParallelNode } | undefined {
  for (const row of rowsOf(preset.chain)) if (row.kind === 'lane' && row.id === id) return { lane: row.lane, split: row.split }
  return undefined
}

/** Where a stage lands when it is put on the place of another row: behind it when it comes from above, else before it. */
export function placeAt(preset: Preset, stage: string, over: string): Place | null {
  const rows = rowsOf(preset.chain)
  const from = rows.findIndex((r) => r.id === stage)
  const to = rows.findIndex((r) => r.id === over)
  const row = rows[to]
  if (!row || from < 0 || from === to) return null
  if (row.kind === 'lane') {
    // from below it goes before the lane: to the end of the lane above, or out of the split
    if (from < to) return { lane: row.id, index: 0 }
    if (row.number > 1) {
      const before = row.split.lanes[row.number - 2]
      return { lane: before.id, index: before.nodes.length }
    }
    const outside = rows.find((r) => r.kind === 'join' && r.id === row.split.id)
    return outside?.kind === 'join' ? outside.place : null
  }
  if (row.kind === 'join') {
    const last = row.split.lanes[row.split.lanes.length - 1]
    return from < to ? { lane: row.place.lane, index: row.place.index + 1 } : { lane: last.id, index: last.nodes.length }
  }
  const here = rows[from]
  const sameRow = here.kind === 'stage' && here.place.lane === row.place.lane
  // within one row the index counts after the stage was taken out
  if (sameRow) return row.place
  return from < to ? { lane: row.place.lane, index: row.place.index + 1 } : row.place
}

/** One line up or down, into lanes and out of them; null at the ends. */
export function stepPlace(preset: Preset, stage: string, direction: 1 | -1): Place | null {
  const rows = rowsOf(preset.chain)
  const next = rows[rows.findIndex((r) => r.id === stage) + direction]
  return next ? placeAt(preset, stage, next.id) : null
}

/** Depth of lanes at a place: 0 in the main row. */
export function depthAt(preset: Preset, lane: string | null): number {
  if (lane === null) return 0
  return rowsOf(preset.chain).find((r) => r.kind === 'lane' && r.id === lane)?.depth ?? 0
}

/** True where one more split around this node stays within what is allowed. */
export const canSplit = (preset: Preset, stage: string): boolean => {
  const place = placeOf(preset, stage)
  return place !== undefined && depthAt(preset, place.lane) < MAX_LANE_DEPTH
}

/** What the signal runs through before it reaches a stage: rows and splits before it, and its own lane's; empty where it is first. */
export function pathTo(nodes: readonly ChainNode[], id: string): readonly ChainNode[] {
  for (const [i, node] of nodes.entries()) {
    if (node.id === id) return nodes.slice(0, i)
    if (node.kind === 'stage') continue
    for (const lane of node.lanes) {
      if (lane.id === id) return [...nodes.slice(0, i), ...lane.nodes]
      if (partsOf(lane.nodes).some((s) => s.id === id)) return [...nodes.slice(0, i), ...pathTo(lane.nodes, id)]
    }
  }
  return []
}
