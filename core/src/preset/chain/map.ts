import type { Preset } from '../preset'
import { stripOf } from './chain'
import type { ChainNode, Lane, ParallelNode, StageNode } from './description'

/** Every node through `change`, inner rows first. What does not change stays the same object. */
export function mapNodes(preset: Preset, change: (node: ChainNode) => readonly ChainNode[], row?: (lane: Lane) => Lane): Preset {
  const map = (nodes: readonly ChainNode[]): readonly ChainNode[] => {
    const next = nodes.flatMap((node) => {
      if (node.kind === 'stage') return change(node)
      const lanes = node.lanes.map((lane) => {
        const inside = map(lane.nodes)
        const inner = inside === lane.nodes ? lane : { ...lane, nodes: inside }
        return row ? row(inner) : inner
      })
      return change(same(lanes, node.lanes) ? node : { ...node, lanes })
    })
    return same(next, nodes) ? nodes : next
  }
  return { ...preset, chain: map(preset.chain) }
}

const same = <T>(a: readonly T[], b: readonly T[]): boolean => a.length === b.length && a.every((item, k) => item === b[k])

export const mapSplit = (preset: Preset, id: string, change: (split: ParallelNode) => ParallelNode): Preset =>
  mapNodes(preset, (node) => [node.kind === 'parallel' && node.id === id ? change(node) : node])

/** A stage, or the strip of a lane, through `change`. */
export function mapStage(preset: Preset, id: string, change: (stage: StageNode) => StageNode): Preset {
  return mapNodes(
    preset,
    (node) => [node.kind === 'stage' && node.id === id ? change(node) : node],
    (lane) => {
      if (lane.id !== id) return lane
      const { on, params } = change(stripOf(lane))
      return { ...lane, on, params }
    },
  )
}

/** A list with one entry at another place. */
export function moved<T>(list: readonly T[], from: number, to: number): T[] {
  const next = [...list]
  const [item] = next.splice(from, 1)
  next.splice(Math.min(Math.max(to, 0), next.length), 0, item)
  return next
}
