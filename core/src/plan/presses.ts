import { columnsOf, faceAfter, switchedStages, usableFunctions, type Toggled } from '@fulgor/core/board'
import {
  capacityOf,
  EMPTY_BOARD,
  findSnapshot,
  findStage,
  hasRoom,
  partName,
  resolveStage,
  type Board,
  type BoardPlace,
  type BoardSwitch,
  type DeviceCapacity,
  type Gesture,
  type Preset,
  type SwitchFunction,
} from '@fulgor/core/preset'
import { NOTE_VALUES } from '@fulgor/core/stage'
import type { Feet, Show } from '@fulgor/core/show'
import { changesOf, type Change } from './changes'

/** One thing that a foot does. */
export interface FootStep {
  readonly preset: string
  readonly place: BoardPlace
  readonly gesture: Gesture
  readonly fn: SwitchFunction
  /** It is heard; else it only leads to what is. */
  readonly sounds: boolean
  readonly sung: boolean
}

export type Trouble =
  | { readonly kind: 'gone'; readonly words: string }
  | { readonly kind: 'unreachable'; readonly words: string }
  | { readonly kind: 'sung'; readonly presses: number; readonly words: string }
  | { readonly kind: 'tight'; readonly presses: number; readonly needS: number; readonly haveS: number; readonly words: string }
  | { readonly kind: 'smeared'; readonly needS: number; readonly words: string }
  | { readonly kind: 'feet'; readonly words: string }
  | { readonly kind: 'tap'; readonly everyMs: number; readonly note: string; readonly words: string }

/** A change with what the feet do for it. */
export interface PlannedChange {
  readonly change: Change
  readonly steps: readonly FootStep[]
  /** Times that a foot goes down; a double press is two, two switches under one foot are one. */
  readonly presses: number
  /** s from the first to the last of them. */
  readonly needS: number
  /** Another preset is loaded for it. */
  readonly loads: boolean
  readonly troubles: readonly Trouble[]
}

export interface Plan {
  readonly changes: readonly PlannedChange[]
  readonly presses: number
  /** Of these, while the player sings. */
  readonly sung: number
  readonly troubles: number
  /** What the search kept small: presses weighted by gesture, voice and way. */
  readonly cost: number
}

/** What one gesture weighs, in presses: a hold comes late, a double press is two, two at once want aim (common practice, no source). */
export const GESTURE_WEIGHT: Record<Gesture, number> = { press: 1, hold: 1.25, double: 1.75, both: 1.5 }
/** Times that a press under the voice weighs, and what each switch that the foot passes adds. */
export const SUNG_WEIGHT = 3
export const WAY_WEIGHT = 0.02
/** What a change weighs that no switch makes: presses. */
const UNREACHED = 6
const PRESSES: Record<Gesture, number> = { press: 1, hold: 1, double: 2, both: 1 }

/** Switches that a foot passes from one to another. */
export function wayBetween(a: number, b: number, columns: number): number {
  return Math.abs((a % columns) - (b % columns)) + Math.abs(Math.floor(a / columns) - Math.floor(b / columns))
}

/** A preset of the show, as the shelf has it. */
export interface ShownPreset {
  readonly id: string
  readonly preset: Preset
}

interface State {
  readonly preset: string | null
  readonly page: Board['start']
  readonly bank: number
  readonly snapshot: string | null
  /** Stages that stand otherwise than the snapshot stores them. */
  readonly on: Toggled
  /** Switch that the foot was on last. */
  readonly foot: number
}

interface Node {
  readonly state: State
  readonly cost: number
  readonly steps: readonly FootStep[]
}

const onKey = (on: Toggled): string =>
  Object.entries(on)
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([id, is]) => `${id}${is ? '+' : '-'}`)
    .join(' ')
const keyOf = (s: State): string => `${s.preset}|${s.page}${s.bank}|${s.snapshot}|${onKey(s.on)}|${s.foot}`

/** Only what differs from what the snapshot stores. */
function differing(preset: Preset, snapshot: string, on: Toggled): Toggled {
  return Object.fromEntries(
    Object.entries(on).filter(([id, is]) => {
      const node = findStage(preset, id)
      return node !== undefined && resolveStage(preset, node, snapshot).on !== is
    }),
  )
}

/**
 * The feet's work of a night: for every change the gestures that lead to it, found together, so that a bank that is left open counts for
 * what comes next. Exact for the weights above: a shortest way over faces of the board, change after change.
 * @param presets those that the show plays, in the order in which they lie on the device
 * @param capacity of the device; by itself each preset's own
 */
export function planPresses(show: Show, order: string, presets: readonly ShownPreset[], capacity?: DeviceCapacity): Plan {
  const changes = changesOf(show, order)
  return planChanges(changes, presets, show.feet, capacity)
}

export function planChanges(changes: readonly Change[], presets: readonly ShownPreset[], feet: Feet, capacity?: DeviceCapacity): Plan {
  const byId = new Map(presets.map((p, place) => [p.id, { ...p, place }]))
  const first = changes.find((c) => byId.has(c.wanted.preset))
  let open: Node[] = [{ state: begin(first?.wanted.preset ?? null, byId), cost: 0, steps: [] }]
  const steps: (readonly FootStep[])[] = []
  const history: { node: Node; from: Node }[][] = []
  const gone: (string | null)[] = []
  const reached: boolean[] = []
  for (const change of changes) {
    const missing = missingOf(change, byId)
    gone.push(missing)
    const ends = missing === null ? waysTo(change, open, byId, presets, capacity) : []
    reached.push(missing !== null || ends.length > 0)
    const next = ends.length > 0 ? ends : stayed(open, change, missing !== null, byId)
    history.push(next)
    open = next.map(({ node }) => ({ ...node, steps: [] }))
  }
  // back along the cheapest way
  let best = open.reduce((a, b) => (b.cost < a.cost ? b : a), open[0])
  for (let i = changes.length - 1; i >= 0; i--) {
    const found = history[i].find(({ node }) => node.cost === best.cost && keyOf(node.state) === keyOf(best.state)) ?? history[i][0]
    steps[i] = found.node.steps
    best = found.from
  }
  const total = Math.min(...open.map((n) => n.cost))
  const planned = changes.map((change, i): PlannedChange => {
    const own = steps[i]
    const taps = change.does === 'tap' && reached[i] && gone[i] === null ? 1 : 0
    const presses = own.reduce((n, s) => n + PRESSES[s.gesture], 0)
    const needS = seconds(own, byId, feet, capacity)
    return {
      change,
      steps: own,
      presses,
      needS,
      loads: gone[i] === null && i > 0 && changes[i - 1].wanted.preset !== change.wanted.preset,
      troubles: troublesOf(change, own, presses, needS, gone[i], reached[i], taps > 0, byId, feet, capacity),
    }
  })
  return {
    changes: planned,
    presses: planned.reduce((n, p) => n + p.presses, 0),
    sung: planned.reduce((n, p) => n + p.steps.reduce((m, s) => m + (s.sung ? PRESSES[s.gesture] : 0), 0), 0),
    troubles: planned.reduce((n, p) => n + p.troubles.length, 0),
    cost: total,
  }
}

type Known = ReadonlyMap<string, ShownPreset & { readonly place: number }>

const boardOf = (preset: Preset): Board => preset.board ?? EMPTY_BOARD
const sizeOf = (preset: Preset, capacity?: DeviceCapacity): DeviceCapacity => capacity ?? capacityOf(preset.device)

/** As it stands when a preset has been loaded: its first snapshot sounds. */
function loaded(id: string, preset: Preset, foot: number): State {
  return { preset: id, page: boardOf(preset).start, bank: 0, snapshot: preset.snapshots[0].id, on: {}, foot }
}

/** Before the night the first sound's preset is loaded. */
function begin(id: string | null, byId: Known): State {
  const own = id === null ? undefined : byId.get(id)
  return own ? loaded(own.id, own.preset, 0) : { preset: null, page: 'snapshots', bank: 0, snapshot: null, on: {}, foot: 0 }
}

function missingOf({ wanted }: Change, byId: Known): string | null {
  const own = byId.get(wanted.preset)
  if (!own) return 'Its preset is not on the shelf any more.'
  if (!findSnapshot(own.preset, wanted.snapshot)) return `Its snapshot is no longer in “${own.preset.name}”.`
  const stage = Object.keys(wanted.on).find((id) => !findStage(own.preset, id))
  return stage === undefined ? null : `A stage that it switches is no longer in “${own.preset.name}”.`
}

/** Where a change cannot be made by foot it is taken as made, from wherever the foot is; what is gone leaves all as it was. */
function stayed(open: readonly Node[], change: Change, missing: boolean, byId: Known): { node: Node; from: Node }[] {
  return open.map((from) => {
    const own = byId.get(change.wanted.preset)
    if (missing || !own) return { node: { ...from, steps: [] }, from }
    const { wanted } = change
    const base = from.state.preset === wanted.preset ? from.state : loaded(own.id, own.preset, from.state.foot)
    const state = { ...base, snapshot: wanted.snapshot, on: differing(own.preset, wanted.snapshot, wanted.on) }
    return { node: { state, cost: from.cost + UNREACHED, steps: [] }, from }
  })
}

/** All cheapest ways from what is open to a change, one an end. */
function waysTo(
  change: Change,
  open: readonly Node[],
  byId: Known,
  presets: readonly ShownPreset[],
  capacity: DeviceCapacity | undefined,
): { node: Node; from: Node }[] {
  const { wanted } = change
  const target = byId.get(wanted.preset)
  if (!target) return []
  const goal = onKey(differing(target.preset, wanted.snapshot, wanted.on))
  const there = (s: State) => s.preset === wanted.preset && s.snapshot === wanted.snapshot && onKey(s.on) === goal
  const best = new Map<string, number>()
  const ends = new Map<string, { node: Node; from: Node }>()
  const queue = new Queue<{ node: Node; from: Node; tapped: boolean }>()
  const offer = (node: Node, from: Node, tapped: boolean) => {
    const key = `${keyOf(node.state)}${tapped ? 't' : ''}`
    if ((best.get(key) ?? Infinity) <= node.cost) return
    best.set(key, node.cost)
    queue.push(node.cost, { node, from, tapped })
  }
  for (const node of open) offer({ ...node, steps: [] }, node, false)
  const wantsTap = change.does === 'tap'
  for (let next = queue.pop(); next; next = queue.pop()) {
    const { node, from, tapped } = next
    const key = keyOf(node.state)
    if ((best.get(`${key}${tapped ? 't' : ''}`) ?? Infinity) < node.cost) continue
    if (there(node.state) && (!wantsTap || tapped)) {
      if (!ends.has(key)) ends.set(key, { node, from })
      continue
    }
    for (const step of stepsFrom(node.state, change, byId, presets, capacity)) {
      const { state, own, gesture, fn, sounds } = step
      // the first press that is heard falls on the breath between two parts; what follows it falls into the line
      const sung = sounds ? change.sungOver || (change.part.sung && node.steps.some((s) => s.sounds)) : !change.quiet
      const columns = columnsOf(sizeOf(step.at, capacity).switches)
      const way = wayBetween(node.state.foot, own.index, columns)
      const cost = node.cost + GESTURE_WEIGHT[gesture] * (sung ? SUNG_WEIGHT : 1) + WAY_WEIGHT * way
      const place = { page: own.page, bank: own.bank, index: own.index }
      const made: FootStep = { preset: node.state.preset ?? '', place, gesture, fn, sounds, sung }
      offer({ state, cost, steps: [...node.steps, made] }, from, tapped || fn.do === 'tap')
    }
  }
  return [...ends.values()]
}

/** Stages that stand differently in two states of the same snapshot. */
const unlike = (a: Toggled, b: Toggled): number =>
  [...new Set([...Object.keys(a), ...Object.keys(b)])].filter((id) => a[id] !== b[id]).length

interface Step {
  readonly state: State
  readonly own: BoardSwitch
  readonly gesture: Gesture
  readonly fn: SwitchFunction
  readonly sounds: boolean
  /** Preset whose board it is. */
  readonly at: Preset
}

/** What a foot can do that leads towards the change and lets nothing else be heard on the way. */
function stepsFrom(
  state: State,
  { wanted, does }: Change,
  byId: Known,
  presets: readonly ShownPreset[],
  capacity: DeviceCapacity | undefined,
): Step[] {
  const own = state.preset === null ? undefined : byId.get(state.preset)
  if (!own) return []
  const { preset } = own
  const size = sizeOf(preset, capacity)
  const board = boardOf(preset)
  const inPlace = state.preset === wanted.preset
  const goal = inPlace ? differing(preset, wanted.snapshot, wanted.on) : {}
  const steps: Step[] = []
  for (const at of board.switches) {
    if (at.page !== state.page || at.bank !== state.bank || !hasRoom(size, at)) continue
    for (const { gesture, fn } of usableFunctions(at, size)) {
      const step = (next: Partial<State>, sounds: boolean) =>
        steps.push({ state: { ...state, foot: at.index, ...next }, own: at, gesture, fn, sounds, at: preset })
      const face = faceAfter(state, fn, size.banks)
      if (face) step({ page: face.page, bank: face.bank }, false)
      else if (fn.do === 'preset' && !inPlace) {
        const target = presets.findIndex((p) => p.id === wanted.preset)
        const place = own.place + fn.by
        // only towards the wanted one, around neither end
        if (place >= 0 && place < presets.length && Math.abs(target - place) < Math.abs(target - own.place)) {
          const next = presets[place]
          step(loaded(next.id, next.preset, at.index), true)
        }
      } else if (fn.do === 'snapshot' && inPlace && fn.snapshot === wanted.snapshot) step({ snapshot: fn.snapshot, on: {} }, true)
      else if (fn.do === 'stages' && inPlace && state.snapshot === wanted.snapshot) {
        const after = differing(preset, state.snapshot, { ...state.on, ...switchedStages(preset, fn, state.snapshot, state.on) })
        // each must bring the stages nearer to what is wanted: else every pair of switches would be tried
        if (unlike(after, goal) < unlike(state.on, goal)) step({ on: after }, true)
      } else if (fn.do === 'tap' && does === 'tap' && inPlace && state.snapshot === wanted.snapshot) step({}, false)
    }
  }
  return steps
}

/** s from the first to the last press. */
function seconds(steps: readonly FootStep[], byId: Known, feet: Feet, capacity: DeviceCapacity | undefined): number {
  let ms = 0
  steps.forEach(({ gesture, place, preset }, i) => {
    const own = byId.get(preset)
    if (!own) return
    const board = boardOf(own.preset)
    if (gesture === 'hold') ms += board.holdMs
    if (gesture === 'double') ms += board.doubleMs / 2
    if (i > 0)
      ms += feet.pressMs + feet.stepMs * wayBetween(steps[i - 1].place.index, place.index, columnsOf(sizeOf(own.preset, capacity).switches))
  })
  return ms / 1000
}

const counted = (n: number): string => `${n} ${n === 1 ? 'press' : 'presses'}`

function troublesOf(
  change: Change,
  steps: readonly FootStep[],
  presses: number,
  needS: number,
  gone: string | null,
  reached: boolean,
  taps: boolean,
  byId: Known,
  feet: Feet,
  capacity: DeviceCapacity | undefined,
): Trouble[] {
  if (gone !== null) return [{ kind: 'gone', words: gone }]
  if (!reached) return [{ kind: 'unreachable', words: unreachableWords(change, byId) }]
  const troubles: Trouble[] = []
  const sung = steps.reduce((n, s) => n + (s.sung ? PRESSES[s.gesture] : 0), 0)
  if (sung > 0) troubles.push({ kind: 'sung', presses: sung, words: `${counted(sung)} while singing` })
  const { windowS, beatMs } = change
  if (windowS !== null && needS > windowS)
    troubles.push({
      kind: 'tight',
      presses,
      needS,
      haveS: windowS,
      words: `${counted(presses)} need ${tenths(needS)} s, there are ${tenths(windowS)} s`,
    })
  const heard = seconds(steps.slice(steps.findIndex((s) => s.sounds)), byId, feet, capacity)
  if (!change.between && steps.some((s) => s.sounds) && beatMs !== null && heard * 1000 > beatMs)
    troubles.push({
      kind: 'smeared',
      needS: heard,
      words: `the change takes ${tenths(heard)} s, longer than a beat of ${tenths(beatMs / 1000)} s`,
    })
  if (change.pedals.length > 1) troubles.push({ kind: 'feet', words: 'two pedals at once, and a switch' })
  else if (change.pedals.length === 1 && steps.some((s) => s.sounds))
    troubles.push({ kind: 'feet', words: 'a pedal and a switch at the same moment: both feet' })
  if (taps && beatMs !== null) {
    const tap = tapTrouble(change, byId, feet)
    if (tap) troubles.push(tap)
  }
  return troubles
}

const tenths = (s: number): string => s.toFixed(1)

/** Taps that come too fast, and the shortest note value that does not. */
function tapTrouble({ wanted, song }: Change, byId: Known, feet: Feet): Trouble | null {
  const own = byId.get(wanted.preset)
  if (!own || song.tempo === null) return null
  const quarter = 60_000 / song.tempo
  const id = findSnapshot(own.preset, wanted.snapshot)?.tap ?? 'quarter'
  const note = NOTE_VALUES.find((n) => n.id === id)
  if (!note || quarter * note.beats >= feet.tapMs) return null
  const better = cleanTap(song.tempo, song.metre.beats * (4 / song.metre.unit), feet)
  const every = Math.round(quarter * note.beats)
  return {
    kind: 'tap',
    everyMs: every,
    note: better.note,
    words: `a tap every ${every} ms comes out uneven; tap ${better.words} instead`,
  }
}

/** The shortest of quarters, halves and bars that can be tapped cleanly. */
export function cleanTap(tempo: number, quartersOfBar: number, feet: Pick<Feet, 'tapMs'>): { note: string; words: string; divide: number } {
  const quarter = 60_000 / tempo
  const choices = [
    { note: 'quarter', words: 'quarters', divide: 1 },
    { note: 'half', words: 'halves', divide: 2 },
    ...(quartersOfBar === 3 ? [{ note: 'half-dotted', words: 'bars, ÷ 3', divide: 3 }] : []),
    { note: 'whole', words: 'whole notes', divide: 4 },
    { note: 'double-whole', words: 'double whole notes', divide: 8 },
  ]
  const usable = quartersOfBar === 3 ? choices.filter((c) => c.divide !== 2) : choices
  return usable.find((c) => quarter * c.divide >= feet.tapMs) ?? usable[usable.length - 1]
}

function unreachableWords({ wanted, does, between }: Change, byId: Known): string {
  const own = byId.get(wanted.preset)
  const name = own ? (findSnapshot(own.preset, wanted.snapshot)?.name ?? '') : ''
  if (own && between && does === 'sound') return `no switch leads to “${own.preset.name}”: change it by hand, between the songs`
  if (does === 'tap') return 'no switch taps the tempo there'
  if (does === 'stage' && own)
    return `no switch turns ${Object.keys(wanted.on)
      .map((id) => partName(own.preset, id))
      .join(' and ')} there`
  return `no switch leads to ${name}`
}

/** A queue by cost: a binary heap. */
class Queue<T> {
  private readonly heap: { cost: number; item: T }[] = []

  push(cost: number, item: T): void {
    const { heap } = this
    heap.push({ cost, item })
    for (let i = heap.length - 1; i > 0;) {
      const up = (i - 1) >> 1
      if (heap[up].cost <= heap[i].cost) break
      ;[heap[up], heap[i]] = [heap[i], heap[up]]
      i = up
    }
  }

  pop(): T | undefined {
    const { heap } = this
    const first = heap.at(0)
    const last = heap.pop()
    if (!first || !last || heap.length === 0) return first?.item
    heap[0] = last
    for (let i = 0; ;) {
      const [l, r] = [2 * i + 1, 2 * i + 2]
      let least = i
      if (l < heap.length && heap[l].cost < heap[least].cost) least = l
      if (r < heap.length && heap[r].cost < heap[least].cost) least = r
      if (least === i) break
      ;[heap[least], heap[i]] = [heap[i], heap[least]]
      i = least
    }
    return first.item
  }
}
