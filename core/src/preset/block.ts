import { array, noOthers, object, PresetError } from './fields'
import { readNode, readLane, readOverride } from './read'
import { MAX_SNAPSHOTS, MAX_STAGES, partsOf, stagesOf, stripOf, type ChainNode, type Lane, type Preset, type StageOverride } from './preset'

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

/**
 * Reads a block of stages that was copied as text, perhaps in another window.
 * @throws PresetError naming the place and the reason
 */
export function readStages(value: unknown): StageBlock {
  const o = object(value, 'stages')
  if (!isStageBlock(o)) throw new PresetError('', 'What was copied last is no block of stages.')
  noOthers(o, 'stages', ['format', 'nodes', 'lane', 'cells'])
  const lane = o.lane === undefined ? undefined : readLane(o.lane, 'lane', 1, new Set())
  const ids = new Set<string>()
  const nodes = lane ? lane.nodes : array(o.nodes, 'nodes', MAX_STAGES).map((node, i) => readNode(node, `nodes[${i}]`, 0, ids))
  if (!lane && nodes.length === 0) throw new PresetError('nodes', 'holds no stage.')
  if (stagesOf(nodes).length > MAX_STAGES) throw new PresetError('nodes', `holds more than ${MAX_STAGES} stages.`)
  const models = new Map([...partsOf(nodes), ...(lane ? [stripOf(lane)] : [])].map((part) => [part.id, part.model]))
  const snapshots = Object.entries(object(o.cells, 'cells'))
  if (snapshots.length > MAX_SNAPSHOTS) throw new PresetError('cells', `holds more than ${MAX_SNAPSHOTS} snapshots.`)
  const cells = snapshots.map(([snapshot, own]) => [
    snapshot,
    Object.fromEntries(
      Object.entries(object(own, `cells.${snapshot}`)).map(([id, cell]) => {
        const model = models.get(id)
        if (model === undefined) throw new PresetError(`cells.${snapshot}.${id}`, 'there is no such stage in the block.')
        return [id, readOverride(cell, `cells.${snapshot}.${id}`, model)]
      }),
    ),
  ])
  return { format: STAGES_FORMAT, nodes, ...(lane ? { lane } : {}), cells: Object.fromEntries(cells) as BlockCells }
}
