import { asObject, constant, DocumentError, list, optional, readWith, record, table } from '@fulgor/core/document'
import type { Preset } from '../preset'
import { checkOverride } from '../snapshots/check'
import { MAX_SNAPSHOTS, overridesField, type StageOverride } from '../snapshots/description'
import { partsOf, stripOf } from './chain'
import { laneField, MAX_STAGES, nodeField, stagesOf, type ChainNode, type Lane } from './description'

const STAGES_FORMAT = 'fulgor.stages'

/** What snapshots change, by the ids of snapshot and stage. */
export type BlockCells = Readonly<Record<string, Readonly<Record<string, StageOverride>>>>

/** Stages, or a whole lane, that were copied, with what the snapshots of their preset change on them. */
export interface StageBlock {
  readonly format: typeof STAGES_FORMAT
  /** In the order of the signal; a lane's own where there is one. */
  readonly nodes: readonly ChainNode[]
  readonly lane?: Lane
  readonly cells: BlockCells
}

/** The chosen stages of a chain; a split comes along whole only where all of it was chosen. */
function chosenNodes(nodes: readonly ChainNode[], wanted: ReadonlySet<string>): ChainNode[] {
  return nodes.flatMap((node): ChainNode[] => {
    if (node.kind === 'stage') return wanted.has(node.id) ? [node] : []
    if (partsOf([node]).every((part) => wanted.has(part.id))) return [node]
    return node.lanes.flatMap((lane) => chosenNodes(lane.nodes, wanted))
  })
}

const lanesOf = (nodes: readonly ChainNode[]): Lane[] =>
  nodes.flatMap((node) => (node.kind === 'stage' ? [] : node.lanes.flatMap((lane) => [lane, ...lanesOf(lane.nodes)])))

/** @param ids stages; or one lane, by itself or with all that is in it, which is copied with its strip */
export function copyStages(preset: Preset, ids: readonly string[]): StageBlock {
  const wanted = new Set(ids)
  const lane = lanesOf(preset.chain).find((l) => {
    const inside = partsOf(l.nodes).map((part) => part.id)
    return wanted.has(l.id) && ids.every((id) => id === l.id || inside.includes(id))
  })
  const nodes = lane ? lane.nodes : chosenNodes(preset.chain, wanted)
  const there = new Set([...partsOf(nodes).map((part) => part.id), ...(lane ? [lane.id] : [])])
  const cells = Object.fromEntries(
    preset.snapshots.flatMap((snapshot) => {
      const own = Object.entries(snapshot.stages).filter(([id]) => there.has(id))
      return own.length > 0 ? [[snapshot.id, Object.fromEntries(own)]] : []
    }),
  )
  return { format: STAGES_FORMAT, nodes, ...(lane ? { lane } : {}), cells }
}

/**
 * The same block with ids of its own, so that it can stand beside what it was copied from.
 * @param nextId a new id at every call
 */
export function freshBlock(block: StageBlock, nextId: () => string): StageBlock {
  const names = new Map<string, string>()
  const renew = (id: string): string => {
    const known = names.get(id) ?? nextId()
    names.set(id, known)
    return known
  }
  const lane = (l: Lane): Lane => ({ ...l, id: renew(l.id), nodes: l.nodes.map(node) })
  const node = (n: ChainNode): ChainNode =>
    n.kind === 'stage' ? { ...n, id: renew(n.id) } : { ...n, id: renew(n.id), lanes: n.lanes.map(lane) }
  const fresh = block.lane ? { lane: lane(block.lane) } : {}
  const nodes = fresh.lane ? fresh.lane.nodes : block.nodes.map(node)
  const cells = Object.fromEntries(
    Object.entries(block.cells).map(([snapshot, own]) => [
      snapshot,
      Object.fromEntries(Object.entries(own).map(([id, cell]) => [renew(id), cell])),
    ]),
  )
  return { ...block, nodes, ...fresh, cells }
}

/** True where copied text says that it is a block of stages. */
export const isStageBlock = (value: unknown): boolean =>
  typeof value === 'object' && value !== null && (value as { format?: unknown }).format === STAGES_FORMAT

const blockRecord = record({
  format: constant(STAGES_FORMAT),
  nodes: list(nodeField, MAX_STAGES),
  lane: optional(laneField),
  cells: table(overridesField, MAX_SNAPSHOTS),
})

/**
 * Reads a block of stages that was copied as text, perhaps in another window.
 * @throws DocumentError naming the place and the reason
 */
export function readStages(value: unknown): StageBlock {
  const raw = asObject(value, 'stages')
  if (!isStageBlock(raw)) throw new DocumentError('', 'What was copied last is no block of stages.')
  // a lane's nodes stand in the lane itself
  const block = readWith(blockRecord, raw.lane === undefined ? raw : { ...raw, nodes: [] })
  const nodes = block.lane ? block.lane.nodes : block.nodes
  if (!block.lane && nodes.length === 0) throw new DocumentError('nodes', 'holds no stage.')
  if (stagesOf(nodes).length > MAX_STAGES) throw new DocumentError('nodes', `holds more than ${MAX_STAGES} stages.`)
  const models = new Map([...partsOf(nodes), ...(block.lane ? [stripOf(block.lane)] : [])].map((part) => [part.id, part.model]))
  for (const [snapshot, own] of Object.entries(block.cells))
    for (const [id, cell] of Object.entries(own)) {
      const path = `cells.${snapshot}.${id}`
      const model = models.get(id)
      if (model === undefined) throw new DocumentError(path, 'there is no such stage in the block.')
      checkOverride(cell, path, model)
    }
  return { ...block, nodes }
}
