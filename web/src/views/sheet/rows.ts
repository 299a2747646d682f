import { stripOf, type ChainNode, type ParallelNode, type Place, type Preset, type StageNode } from '@fulgor/core/preset'

/** Pixels between the lines of the gutter. */
const STEP = 16
const FIRST = 7
const lineX = (depth: number): number => FIRST + STEP * depth
const exitX = (depth: number): number => lineX(depth) + 7

/** Width of the drawn part of the gutter for lanes this deep. */
export const gutterWidth = (depth: number): number => 14 + STEP * depth + (depth > 0 ? 4 : 0)

/** One line of the Sheet, with what is drawn in its gutter and whose measures its trace shows. */
export interface SheetRow {
  readonly kind: 'stage' | 'lane' | 'join'
  readonly id: string
  /** The stage, or the lane's strip; null at a join. */
  readonly stage: StageNode | null
  readonly split: ParallelNode | null
  /** Number among the stages, or of the lane in its split. */
  readonly number: number
  readonly place: Place
  readonly depth: number
  /** Path of the routing lines in a box of 40 px height, and where the node sits. */
  readonly path: string
  readonly node: number
  /** Whose measures: after this line, before it and behind it in the signal. */
  readonly here: string | null
  readonly before: string | null
  readonly after: string | null
  /** What passes beside this line in other lanes. */
  readonly passing: readonly string[]
  /** At a join: the other lanes that come in here. */
  readonly merging: readonly string[]
}

/** Whether two lines are drawn alike and stand for the same; what their stages hold does not count. */
export const sameLine = (a: SheetRow, b: SheetRow): boolean =>
  DRAWN.every((key) => a[key] === b[key]) &&
  a.split?.id === b.split?.id &&
  a.split?.lanes.length === b.split?.lanes.length &&
  sameIds(a.passing, b.passing) &&
  sameIds(a.merging, b.merging)

const DRAWN = ['kind', 'id', 'number', 'depth', 'path', 'node', 'here', 'before', 'after'] as const

const sameIds = (a: readonly string[], b: readonly string[]): boolean => a.length === b.length && a.every((id, k) => id === b[k])

/** Whether all that a stage's line shows of a preset is as it was: an edit elsewhere leaves the line standing. */
export const sameCells = (a: Preset, b: Preset, stage: string): boolean =>
  a.tempo === b.tempo &&
  a.snapshots.length === b.snapshots.length &&
  a.snapshots.every((was, k) => {
    const { id, name, tempo, stages } = b.snapshots[k]
    return was === b.snapshots[k] || (was.id === id && was.name === name && was.tempo === tempo && was.stages[stage] === stages[stage])
  })

interface Around {
  readonly lane: string | null
  readonly depth: number
  /** Lines of the gutter that pass, as x. */
  readonly guides: readonly number[]
  readonly passing: readonly string[]
}

/** The chain as lines of the Sheet. */
export function sheetRows(chain: readonly ChainNode[]): SheetRow[] {
  const rows: SheetRow[] = []
  let count = 0
  const vertical = (x: number, from = 0, to = 40) => `M${x} ${from}V${to}`

  const walk = (nodes: readonly ChainNode[], around: Around, input: string | null, end: string | null): string | null => {
    const { depth, guides, passing, lane } = around
    const x = lineX(depth)
    let before = input
    nodes.forEach((node, index) => {
      const last = index === nodes.length - 1
      const place = { lane, index }
      const leaves = last && depth > 0
      const tail = leaves ? `M${x} 20C${x} 32 ${exitX(depth)} 28 ${exitX(depth)} 40` : vertical(x, 20)
      const passes = guides.map((g) => vertical(g)).join('')
      const next = nodes[index + 1]
      const after = next ? (next.kind === 'stage' ? next.id : null) : end
      if (node.kind === 'stage') {
        count++
        const top = rows.length === 0 ? vertical(x, 14, 20) : vertical(x, 0, 20)
        rows.push({
          kind: 'stage',
          id: node.id,
          stage: node,
          split: null,
          number: count,
          place,
          depth,
          path: passes + top + tail,
          node: x,
          here: node.id,
          before,
          after,
          passing,
          merging: [],
        })
      } else {
        node.lanes.forEach((l, k) => {
          const more = k < node.lanes.length - 1
          const inner = lineX(depth + 1)
          const exits = k > 0 ? [exitX(depth + 1)] : []
          const empty = l.nodes.length === 0
          const beside = [...passing, ...(more && before ? [before] : []), ...node.lanes.slice(0, k).map((other) => other.id)]
          const feed = rows.length === 0 ? vertical(x, 14, more ? 40 : 20) : vertical(x, 0, more ? 40 : 20)
          const branch = `M${x} 8C${x} 20 ${inner} 8 ${inner} 20`
          const down = empty ? `M${inner} 20C${inner} 32 ${exitX(depth + 1)} 28 ${exitX(depth + 1)} 40` : vertical(inner, 20)
          rows.push({
            kind: 'lane',
            id: l.id,
            stage: stripOf(l),
            split: node,
            number: k + 1,
            place,
            depth: depth + 1,
            path: passes + exits.map((g) => vertical(g)).join('') + feed + branch + down,
            node: inner,
            here: before,
            before,
            after: l.nodes[0]?.kind === 'stage' ? l.nodes[0].id : empty ? l.id : null,
            passing: beside,
            merging: [],
          })
          walk(
            l.nodes,
            { lane: l.id, depth: depth + 1, guides: [...guides, ...(more ? [x] : []), ...exits], passing: beside },
            before,
            l.id,
          )
        })
        const from = exitX(depth + 1)
        rows.push({
          kind: 'join',
          id: node.id,
          stage: null,
          split: node,
          number: node.lanes.length,
          place,
          depth,
          path: `${passes}M${from} 0C${from} 14 ${x} 8 ${x} 20${tail}`,
          node: x,
          here: node.id,
          before: node.lanes[node.lanes.length - 1].id,
          after,
          passing,
          merging: node.lanes.slice(0, -1).map((lane) => lane.id),
        })
      }
      before = node.id
    })
    return before
  }
  walk(chain, { lane: null, depth: 0, guides: [], passing: [] }, null, null)
  return rows
}
