import { functionLabel } from '@fulgor/core/board'
import {
  applyEdit,
  capacityOf,
  EMPTY_BOARD,
  findSnapshot,
  findStage,
  functionsOf,
  partName,
  resolveStage,
  type Board,
  type DeviceCapacity,
  type Preset,
} from '@fulgor/core/preset'
import { withSong, type Show } from '@fulgor/core/show'
import { changesOf } from './changes'
import { bestLayout, boardOfLayout, layoutProblem, standsAt, type Layout } from './layout'
import { planChanges, type Plan, type ShownPreset } from './presses'

/** A board for one preset of a night. */
export interface ProposedBoard {
  readonly preset: string
  readonly board: Board
  readonly layout: Pick<Layout, 'cost' | 'bound' | 'exact'>
}

export interface LayoutProposal {
  readonly boards: readonly ProposedBoard[]
  /** Combinations that get a snapshot of their own. */
  readonly snapshots: readonly MadeSnapshot[]
  /** Show and presets with all of it. */
  readonly show: Show
  readonly presets: readonly ShownPreset[]
  readonly before: Plan
  readonly after: Plan
  /** What changes, in words: where a function stands now, or which cue is mended. */
  readonly changes: readonly { readonly where: string; readonly words: string }[]
}

export interface LayoutJob {
  readonly show: Show
  readonly order: string
  readonly presets: readonly ShownPreset[]
  /** Switches that stay as they are, by preset. */
  readonly locked: Readonly<Record<string, readonly string[]>>
  /** Combinations may become snapshots of their own. */
  readonly snapshots: boolean
  /** Snapshots are put in the order of their switches, so that both have the same number; their MIDI numbers follow. */
  readonly ordered?: boolean
  /** Of the device that it is played on; by itself each preset's own. */
  readonly capacity?: DeviceCapacity
}

/**
 * Boards with which a night takes the fewest presses, and what they change. Yields the share that is done.
 * A board that is not better is not proposed.
 */
export function* proposeLayout(job: LayoutJob, newId: () => string): Generator<number, LayoutProposal> {
  const { order, locked, capacity } = job
  const before = planChanges(changesOf(job.show, order), job.presets, job.show.feet, capacity)
  const { show, presets, snapshots } = job.snapshots ? withOwn(job, before, newId) : { ...job, snapshots: [] }
  const changes = changesOf(show, order)
  const used = presets.filter((p) => changes.some((c) => c.wanted.preset === p.id))
  const boards: ProposedBoard[] = []
  for (const [k, shown] of used.entries()) {
    const own = new Set(locked[shown.id] ?? [])
    const problem = layoutProblem(changes, shown, presets, own, capacity)
    const search = bestLayout(problem)
    for (;;) {
      const { value, done } = search.next()
      if (done) {
        const board = boardOfLayout(problem, value, shown.preset.board ?? EMPTY_BOARD, own, newId)
        boards.push({ preset: shown.id, board, layout: { cost: value.cost, bound: value.bound, exact: value.exact } })
        break
      }
      yield (k + value) / used.length
    }
  }
  const placed = presets.map((p) => withBoard(p, boards))
  const laid = job.ordered
    ? placed.map((p) => (boards.some((b) => b.preset === p.id) ? { ...p, preset: inSwitchOrder(p.preset) } : p))
    : placed
  const after = planChanges(changes, laid, show.feet, capacity)
  if (!(after.cost < before.cost - 1e-6 || after.troubles < before.troubles))
    return { boards: [], snapshots: [], show: job.show, presets: job.presets, before, after: before, changes: [] }
  const said = [
    ...snapshots.map((s) => ({ where: `${s.times} ${s.times === 1 ? 'use' : 'uses'}`, words: `${s.name} becomes a snapshot of its own` })),
    ...movedFunctions(presets, boards, capacity),
    ...renumbered(placed, laid),
    ...mendedCues(before, after),
  ]
  return { boards, snapshots, show, presets: laid, before, after, changes: said }
}

/** Combinations that cost more than a press each time become snapshots, as far as there is room. */
function withOwn({ show, order, presets, capacity }: LayoutJob, before: Plan, newId: () => string) {
  const snapshots: MadeSnapshot[] = []
  let now: { show: Show; presets: readonly ShownPreset[] } = { show, presets }
  let plan = before
  for (;;) {
    const [own] = ownSnapshots(plan, now.presets, capacity)
    if ((own as OwnSnapshot | undefined) === undefined) return { ...now, snapshots }
    const id = newId()
    snapshots.push({ ...own, id })
    now = {
      show: withOwnSnapshot(now.show, own, id),
      presets: now.presets.map((p) => (p.id === own.preset ? { ...p, preset: withCombination(p.preset, own, id) } : p)),
    }
    plan = planChanges(changesOf(now.show, order), now.presets, show.feet, capacity)
  }
}

/** The preset with a combination as its last snapshot: the numbers of the others stay. */
export function withCombination(preset: Preset, { snapshot, on, name }: OwnSnapshot, id: string): Preset {
  const copied = applyEdit(preset, { type: 'duplicateSnapshot', source: snapshot, snapshot: id, name })
  const last = applyEdit(copied, { type: 'moveSnapshot', snapshot: id, index: copied.snapshots.length - 1 })
  return Object.entries(on).reduce((now, [stage, is]) => applyEdit(now, { type: 'setOn', stage, on: is, snapshot: id }), last)
}

/** The preset with its snapshots in the order of the switches that load them; those without one come last. */
export function inSwitchOrder(preset: Preset): Preset {
  const place = (id: string): number => {
    const places = (preset.board?.switches ?? []).flatMap((s) =>
      s.page === 'snapshots' && s.press?.do === 'snapshot' && s.press.snapshot === id ? [100 * s.bank + s.index] : [],
    )
    return Math.min(10_000, ...places)
  }
  const order = [...preset.snapshots].sort((a, b) => place(a.id) - place(b.id))
  return order.reduce(
    (now, { id }, index) => (now.snapshots[index].id === id ? now : applyEdit(now, { type: 'moveSnapshot', snapshot: id, index })),
    preset,
  )
}

function renumbered(before: readonly ShownPreset[], after: readonly ShownPreset[]) {
  return after.flatMap(({ id, preset }) => {
    const old = before.find((p) => p.id === id)?.preset
    if (!old || old === preset) return []
    return preset.snapshots.flatMap((s, i) => {
      const was = old.snapshots.findIndex((o) => o.id === s.id)
      return was === i ? [] : [{ where: String(i + 1), words: `${s.name} is snapshot ${i + 1}, was ${was + 1}; so is its MIDI number` }]
    })
  })
}

export const withBoard = (shown: ShownPreset, boards: readonly ProposedBoard[]): ShownPreset => {
  const found = boards.find((b) => b.preset === shown.id)
  return found ? { ...shown, preset: { ...shown.preset, board: found.board } } : shown
}

function movedFunctions(presets: readonly ShownPreset[], boards: readonly ProposedBoard[], capacity?: DeviceCapacity) {
  return boards.flatMap(({ preset: id, board }) => {
    const preset = presets.find((p) => p.id === id)?.preset
    if (!preset) return []
    const size = capacity ?? capacityOf(preset.device)
    const old = preset.board ?? EMPTY_BOARD
    const functions = [...old.switches, ...board.switches].flatMap((s) => functionsOf(s).map(({ fn }) => fn))
    const seen = new Set<string>()
    return functions.flatMap((fn) => {
      const key = JSON.stringify(fn)
      if (seen.has(key)) return []
      seen.add(key)
      const [from, to] = [standsAt(old, fn, size), standsAt(board, fn, size)]
      if (from.join() === to.join()) return []
      const name = functionLabel(preset, fn)
      const words =
        to.length === 0 ? `${name} has no place any more` : from.length === 0 ? `${name}, new` : `${name}, was at ${from.join(' and ')}`
      return [{ where: to.length === 0 ? from[0] : to.join(', '), words }]
    })
  })
}

function mendedCues(before: Plan, after: Plan) {
  return before.changes.flatMap((old) => {
    const now = after.changes.find(
      (c) => c.change.part.id === old.change.part.id && c.change.at === old.change.at && c.change.does === old.change.does,
    )
    if (!now || old.troubles.length === 0 || now.troubles.length > 0) return []
    return [
      {
        where: `${old.change.song.name}, ${old.change.part.name}`,
        words: `${old.troubles[0].words}: now ${now.presses === 1 ? 'one press' : `${now.presses} presses`}`,
      },
    ]
  })
}

/** A sound that takes more than one gesture each time it comes, and would take one as a snapshot. */
export interface OwnSnapshot {
  readonly preset: string
  readonly snapshot: string
  readonly on: Readonly<Record<string, boolean>>
  readonly name: string
  readonly times: number
  /** Presses that it takes over the night, and would take. */
  readonly presses: number
  readonly songs: readonly string[]
}

/** One that was made of it. */
export interface MadeSnapshot extends OwnSnapshot {
  readonly id: string
}

/** Combinations at the start of parts that deserve a snapshot of their own, dearest first; none where the preset is full. */
export function ownSnapshots(plan: Plan, presets: readonly ShownPreset[], capacity?: DeviceCapacity): OwnSnapshot[] {
  const found = new Map<string, OwnSnapshot>()
  plan.changes.forEach(({ change, presses }) => {
    const { wanted, does } = change
    const shown = presets.find((p) => p.id === wanted.preset)
    if (does !== 'sound' || !shown || Object.keys(wanted.on).length === 0) return
    if (shown.preset.snapshots.length >= (capacity ?? capacityOf(shown.preset.device)).snapshots) return
    const key = `${wanted.preset} ${wanted.snapshot} ${JSON.stringify(wanted.on)}`
    const old = found.get(key)
    found.set(key, {
      preset: wanted.preset,
      snapshot: wanted.snapshot,
      on: wanted.on,
      name: combinedName(shown.preset, wanted.snapshot, wanted.on),
      times: (old?.times ?? 0) + 1,
      presses: (old?.presses ?? 0) + presses,
      songs: [...new Set([...(old?.songs ?? []), change.song.name])],
    })
  })
  return [...found.values()].filter((f) => f.presses > f.times).sort((a, b) => b.presses - b.times - (a.presses - a.times))
}

function combinedName(preset: Preset, snapshot: string, on: Readonly<Record<string, boolean>>): string {
  const base = findSnapshot(preset, snapshot)?.name ?? ''
  const stages = Object.entries(on).map(([id, is]) => `${is ? 'with' : 'without'} ${partName(preset, id)}`)
  return `${base} ${stages.join(', ')}`.slice(0, 80)
}

/** The show with every part that begins by that combination played by a snapshot of its own. */
export function withOwnSnapshot(show: Show, own: OwnSnapshot, snapshot: string): Show {
  const key = JSON.stringify(own.on)
  return show.songs.reduce(
    (now, { id }) =>
      withSong(now, id, (song) => ({
        ...song,
        parts: song.parts.map((part) => {
          if (part.sound?.preset !== own.preset || part.sound.snapshot !== own.snapshot) return part
          const first = part.moves.flatMap((m) => (m.do === 'stage' && m.at === 0 ? [m] : []))
          const on: Record<string, boolean> = Object.fromEntries(first.map((m) => [m.stage, m.on]))
          if (JSON.stringify(on) !== key) return part
          return { ...part, sound: { preset: own.preset, snapshot }, moves: part.moves.filter((m) => !first.some((f) => f === m)) }
        }),
      })),
    show,
  )
}

/** The show with the parts that play such a snapshot as they were: the snapshot before, and its stages switched. */
export function withoutOwnSnapshot(show: Show, { preset, snapshot, on, id }: MadeSnapshot): Show {
  const switched = Object.entries(on).map(([stage, is]) => ({ do: 'stage' as const, stage, at: 0, on: is }))
  return {
    ...show,
    songs: show.songs.map((song) =>
      song.parts.some((p) => p.sound?.preset === preset && p.sound.snapshot === id)
        ? {
            ...song,
            parts: song.parts.map((p) =>
              p.sound?.preset === preset && p.sound.snapshot === id
                ? { ...p, sound: { preset, snapshot }, moves: [...switched, ...p.moves] }
                : p,
            ),
          }
        : song,
    ),
  }
}

/** True where a stage is on in a snapshot as it is stored. */
export const isOnIn = (preset: Preset, stage: string, snapshot: string): boolean => {
  const node = findStage(preset, stage)
  return node ? resolveStage(preset, node, snapshot).on : false
}
