import { columnsOf, footWords, usableFunctions } from '@fulgor/core/board'
import {
  capacityOf,
  createSwitch,
  EMPTY_BOARD,
  findStage,
  hasRoom,
  resolveStage,
  type Board,
  type BoardSwitch,
  type DeviceCapacity,
  type Gesture,
  type SwitchFunction,
} from '@fulgor/core/preset'
import type { Change } from './changes'
import { GESTURE_WEIGHT, SUNG_WEIGHT, WAY_WEIGHT, wayBetween, type ShownPreset } from './presses'

/** A change that has less time than this weighs more, s and times (common practice, no source). */
const TIGHT_S = 2
const TIGHT_WEIGHT = 1.5
/** What is on the board but not in the show keeps a place where there is one: presses a night that it is taken to be used. */
const RARELY = 0.2
/** A press waits for the release where its switch can be held. */
const BESIDE_HOLD = 0.03
/** What the foot has learnt weighs a little: presses for everything that leaves its place, and for every place that is taken. */
const MOVED = 0.3
export const TAKEN = 0.01

/** One thing that the night asks of a preset's board, in its order. */
export interface Token {
  /** Number of the function. */
  readonly fn: number
  readonly weight: number
  /** Weight of what leads there from the token before; null: nothing leads there, the preset was just loaded. */
  readonly leads: number | null
}

export interface Slot {
  readonly bank: number
  readonly index: number
  readonly gesture: 'press' | 'hold'
}

/** Banks that a slot leads to lie one on or one back. */
const NEXT = -1
const BACK = -2
const EMPTY = -3

export interface LayoutProblem {
  readonly functions: readonly SwitchFunction[]
  /** Functions below this number are wanted by the night; the others keep a place where there is one. */
  readonly wanted: number
  readonly tokens: readonly Token[]
  readonly slots: readonly Slot[]
  /** Slots that stay as they are: number of the function, or −3 where nothing stands. */
  readonly fixed: readonly (number | null)[]
  /** What stands in the slots today. */
  readonly today: readonly number[]
  readonly banks: number
  /** Switches of a row. */
  readonly columns: number
}

export interface Layout {
  /** For every slot the number of its function; −1 and −2 lead to the next bank and the one before, −3 is empty. */
  readonly at: readonly number[]
  readonly cost: number
  /** No layout costs less. */
  readonly bound: number
  /** Every layout was looked at. */
  readonly exact: boolean
}

const keyOf = (fn: SwitchFunction): string => JSON.stringify(fn)

/**
 * What a night asks of one preset's board.
 * @param locked ids of switches that stay as they are
 */
export function layoutProblem(
  changes: readonly Change[],
  shown: ShownPreset,
  presets: readonly ShownPreset[],
  locked: ReadonlySet<string>,
  capacity: DeviceCapacity = capacityOf(shown.preset.device),
): LayoutProblem {
  const { preset } = shown
  const functions: SwitchFunction[] = []
  const numbers = new Map<string, number>()
  const numberOf = (fn: SwitchFunction): number => {
    const key = keyOf(fn)
    const known = numbers.get(key)
    if (known !== undefined) return known
    numbers.set(key, functions.length)
    functions.push(fn)
    return functions.length - 1
  }
  const tokens: Token[] = []
  let here: { preset: string; snapshot: string; on: Readonly<Record<string, boolean>> } | null = null
  let just = true
  const place = (id: string) => presets.findIndex((p) => p.id === id)
  for (const { wanted, windowS, quiet, sungOver, does, part } of changes) {
    let heard = false
    const weight = () => (sungOver || (part.sung && heard) ? SUNG_WEIGHT : 1) * (windowS !== null && windowS < TIGHT_S ? TIGHT_WEIGHT : 1)
    const leads = quiet ? 1 : SUNG_WEIGHT
    const add = (fn: SwitchFunction) => {
      tokens.push({ fn: numberOf(fn), weight: weight(), leads: just ? null : leads })
      heard = true
      just = false
    }
    if (here && here.preset === shown.id && wanted.preset !== shown.id && place(wanted.preset) >= 0)
      add({ do: 'preset', by: place(wanted.preset) > place(shown.id) ? 1 : -1 })
    if (wanted.preset !== shown.id) {
      here = wanted
      continue
    }
    if (here === null || here.preset !== shown.id) {
      just = true
      here = { preset: shown.id, snapshot: preset.snapshots[0].id, on: {} }
    }
    const stands = (id: string, on: Readonly<Record<string, boolean>>) => {
      const node = findStage(preset, id)
      return on[id] ?? (node ? resolveStage(preset, node, wanted.snapshot).on : false)
    }
    const before = here.snapshot === wanted.snapshot ? here.on : null
    const stages = [...new Set([...Object.keys(before ?? {}), ...Object.keys(wanted.on)])].filter(
      (id) => findStage(preset, id) && stands(id, before ?? {}) !== stands(id, wanted.on),
    )
    if (before === null || (Object.keys(wanted.on).length === 0 && stages.length > 1)) add({ do: 'snapshot', snapshot: wanted.snapshot })
    if (before === null || !(Object.keys(wanted.on).length === 0 && stages.length > 1))
      for (const id of stages) add({ do: 'stages', stages: [id], how: 'each' })
    if (does === 'tap') add({ do: 'tap' })
    here = wanted
  }
  const wanted = functions.length
  const board = preset.board ?? EMPTY_BOARD
  for (const own of board.switches)
    if (own.page === 'snapshots' && hasRoom(capacity, own))
      for (const { gesture, fn } of usableFunctions(own, capacity)) if (fn.do !== 'bank' && gesture !== 'both') numberOf(fn)
  const perFace = capacity.switches * (capacity.hold ? 2 : 1)
  const banks = functions.length <= perFace ? 1 : capacity.banks
  const slots = Array.from({ length: banks }, (_, bank) =>
    Array.from({ length: capacity.switches }, (_, index) => [
      { bank, index, gesture: 'press' as const },
      ...(capacity.hold ? [{ bank, index, gesture: 'hold' as const }] : []),
    ]).flat(),
  ).flat()
  const fixed = slots.map(({ bank, index, gesture }) => {
    const own = board.switches.find((s) => s.page === 'snapshots' && s.bank === bank && s.index === index)
    if (!own || !locked.has(own.id)) return null
    const fn = own[gesture]
    if (fn === null) return EMPTY
    if (fn.do === 'bank') return fn.by > 0 ? NEXT : BACK
    return numberOf(fn)
  })
  const today = slots.map(({ bank, index, gesture }) => {
    const fn = board.switches.find((s) => s.page === 'snapshots' && s.bank === bank && s.index === index)?.[gesture]
    return !fn || fn.do === 'bank' ? EMPTY : numberOf(fn)
  })
  return { functions, wanted, tokens, slots, fixed, today, banks, columns: columnsOf(capacity.switches) }
}

/** How often one thing follows another over the night; `from` −1: the preset was just loaded. */
interface Flow {
  readonly from: number
  readonly to: number
  leads: number
  count: number
}

/** What every look at a layout needs, worked out once. */
interface Prepared {
  readonly flows: readonly Flow[]
  /** Weight of each function over the night. */
  readonly weights: readonly number[]
  /** From slot to slot, row by row. */
  readonly way: Float64Array
  readonly bank: Uint8Array
  /** The press of a hold's switch; −1 for a press. */
  readonly pressOf: Int16Array
  readonly holdOf: Int16Array
}
const prepared = new WeakMap<LayoutProblem, Prepared>()

function prepare(problem: LayoutProblem): Prepared {
  const known = prepared.get(problem)
  if (known) return known
  const { slots, tokens, functions, columns } = problem
  const flows = new Map<string, Flow>()
  const weights = functions.map(() => 0)
  tokens.forEach(({ fn, weight, leads }, i) => {
    const from = i === 0 || leads === null ? -1 : tokens[i - 1].fn
    const key = `${from} ${fn}`
    const flow = flows.get(key) ?? { from, to: fn, leads: 0, count: 0 }
    flow.leads += leads ?? 1
    flow.count += 1
    flows.set(key, flow)
    weights[fn] += weight
  })
  const beside = (gesture: Slot['gesture'], s: Slot) =>
    slots.findIndex((o) => o.bank === s.bank && o.index === s.index && o.gesture === gesture)
  const made: Prepared = {
    flows: [...flows.values()],
    weights,
    way: Float64Array.from(slots.flatMap((a) => slots.map((b) => WAY_WEIGHT * wayBetween(a.index, b.index, columns)))),
    bank: Uint8Array.from(slots.map((s) => s.bank)),
    pressOf: Int16Array.from(slots.map((s) => (s.gesture === 'hold' ? beside('press', s) : -1))),
    holdOf: Int16Array.from(slots.map((s) => (s.gesture === 'press' ? beside('hold', s) : -1))),
  }
  prepared.set(problem, made)
  return made
}

/** Cost of a layout: as the plan of presses weighs them. Infinite where a function that the night wants is not there. */
export function layoutCost(problem: LayoutProblem, at: readonly number[]): number {
  const { functions, wanted, tokens, slots, banks, today } = problem
  const { flows, weights, way, bank, pressOf, holdOf } = prepare(problem)
  const size = slots.length
  const weigh = (s: number) =>
    pressOf[s] >= 0
      ? GESTURE_WEIGHT.hold
      : holdOf[s] >= 0 && at[holdOf[s]] !== EMPTY
        ? GESTURE_WEIGHT.press + BESIDE_HOLD
        : GESTURE_WEIGHT.press
  const single = new Int16Array(functions.length).fill(-1)
  let several = false
  let sum = 0
  for (let s = 0; s < size; s++) {
    const fn = at[s]
    if (today[s] >= 0 && today[s] !== fn) sum += MOVED
    if (fn !== EMPTY) sum += TAKEN
    if (fn < 0) continue
    if (single[fn] < 0) single[fn] = s
    else several = true
  }
  for (let fn = wanted; fn < functions.length; fn++) {
    const s = single[fn]
    sum += RARELY * (s < 0 ? 3 : Math.min(3, weigh(s) + (bank[s] > 0 ? 1 : 0)))
  }
  for (let fn = 0; fn < wanted; fn++) if (single[fn] < 0) return Infinity
  /** Presses that lead from one bank to another, then the way of the foot, from the slot that it starts from. */
  const legs = new Map<number, readonly [gestures: number, way: number] | null>()
  const leg = (a: number, from: number, b: number, seen: number): readonly [number, number] | null => {
    if (from === bank[b]) return [0, way[a * size + b]]
    const key = (a * 256 + b) * 256 + seen
    const known = legs.get(key)
    if (known !== undefined) return known
    let best: readonly [number, number] | null = null
    for (let slot = 0; slot < size; slot++) {
      if (bank[slot] !== from || (at[slot] !== NEXT && at[slot] !== BACK)) continue
      const to = (from + (at[slot] === NEXT ? 1 : -1) + banks) % banks
      if (seen & (1 << to)) continue
      const rest = leg(slot, to, b, seen | (1 << to))
      if (!rest) continue
      const found = [weigh(slot) + rest[0], way[a * size + slot] + rest[1]] as const
      if (!best || found[0] < best[0] - 1e-9 || (found[0] < best[0] + 1e-9 && found[1] < best[1])) best = found
    }
    legs.set(key, best)
    return best
  }
  if (!several) {
    // everything stands in one place: what follows what is all that counts
    for (let fn = 0; fn < wanted; fn++) sum += weights[fn] * weigh(single[fn])
    for (const { from, to, leads, count } of flows) {
      const b = single[to]
      const a = from < 0 ? b : single[from]
      if (from >= 0 && bank[a] === bank[b]) {
        sum += count * way[a * size + b]
        continue
      }
      const start = from < 0 ? 0 : bank[a]
      const found = leg(a, start, b, 1 << start)
      if (!found) return Infinity
      sum += leads * found[0] + (from < 0 ? 0 : count * found[1])
    }
    return sum
  }
  const places: number[][] = functions.map(() => [])
  at.forEach((fn, s) => {
    if (fn >= 0) places[fn].push(s)
  })
  let open: { slot: number; cost: number }[] = []
  for (const { fn, weight, leads } of tokens) {
    const next: { slot: number; cost: number }[] = []
    const before = open.length === 0 ? null : open
    const least = before ? Math.min(...before.map((o) => o.cost)) : 0
    for (const slot of places[fn]) {
      let cost = Infinity
      if (leads === null || before === null) {
        // the preset has just been loaded: its first bank is open, and the foot is anywhere
        const first = leg(slot, 0, slot, 1)
        if (first) cost = least + first[0]
      } else
        for (const o of before) {
          const found = leg(o.slot, bank[o.slot], slot, 1 << bank[o.slot])
          if (found) cost = Math.min(cost, o.cost + leads * found[0] + found[1])
        }
      if (cost < Infinity) next.push({ slot, cost: cost + weight * weigh(slot) })
    }
    if (next.length === 0) return Infinity
    open = next
  }
  return sum + (open.length === 0 ? 0 : Math.min(...open.map((o) => o.cost)))
}

/** What no layout can go below: every token is one press at least, and what is left without a place costs three. */
export function layoutBound({ tokens, functions, wanted }: LayoutProblem): number {
  return tokens.reduce((sum, t) => sum + t.weight * GESTURE_WEIGHT.press, 0) + RARELY * (functions.length - wanted) * GESTURE_WEIGHT.press
}

/** Layouts that are all looked at, at most. */
const ALL_OF_THEM = 40_000
const ROUNDS = 24_000
const RESTARTS = 3
/** Share of the rounds in which everything stands in one place only: a look at such a layout takes a tenth of the time. */
const PLACING = 0.75

/**
 * Finds the layout that costs least: by looking at all where they are few, by annealing elsewhere, which says how far from the bound it
 * ended. Yields the share that is done.
 * @param seed of the search: the same one gives the same layout
 * @param most layouts that are all looked at
 */
export function* bestLayout(problem: LayoutProblem, seed = 1, most = ALL_OF_THEM): Generator<number, Layout> {
  const { functions, slots, fixed, banks } = problem
  const free = slots.flatMap((_, s) => (fixed[s] === null ? [s] : []))
  const choices = [EMPTY, ...(banks > 1 ? [NEXT] : []), ...(banks > 2 ? [BACK] : []), ...functions.map((_, i) => i)]
  const bound = layoutBound(problem)
  const start = slots.map((_, s) => fixed[s] ?? EMPTY)
  const today = slots.map((_, s) => fixed[s] ?? problem.today[s])
  if (choices.length ** free.length <= most) {
    let best = { at: start, cost: layoutCost(problem, start) }
    const total = choices.length ** free.length
    for (let n = 0; n < total; n++) {
      const at = [...start]
      for (let k = 0, rest = n; k < free.length; k++, rest = Math.floor(rest / choices.length)) at[free[k]] = choices[rest % choices.length]
      const cost = layoutCost(problem, at)
      if (cost < best.cost - 1e-9) best = { at, cost }
      if (n % 4_000 === 0) yield n / total
    }
    return { ...best, bound, exact: true }
  }
  const random = mulberry(seed)
  // a thing that stands twice is worth trying; on a large board it seldom pays, and costs the search its pace
  const changes = 0.3 * Math.min(1, 8 / free.length) ** 2
  let best = { at: start, cost: Infinity }
  for (let restart = 0; restart < RESTARTS; restart++) {
    // once from what the foot knows
    let now = restart === 0 && soft(problem, today) < 1e4 ? today : dealt(problem, restart === 1 ? today : start, free, random)
    let cost = soft(problem, now)
    for (let round = 0; round < ROUNDS; round++) {
      if (round % 1_000 === 0) yield (restart + round / ROUNDS) / RESTARTS
      const heat = 1.2 * (1 - round / ROUNDS) ** 3
      const next = [...now]
      const a = free[Math.floor(random() * free.length)]
      if (round < PLACING * ROUNDS || random() > changes) {
        const b = free[Math.floor(random() * free.length)]
        ;[next[a], next[b]] = [next[b], next[a]]
      } else next[a] = choices[Math.floor(random() * choices.length)]
      const after = soft(problem, next)
      if (after <= cost || (heat > 0 && random() < Math.exp((cost - after) / heat))) {
        now = next
        cost = after
        if (cost < best.cost - 1e-9) best = { at: now, cost }
      }
    }
  }
  return { ...best, bound, exact: false }
}

/** As {@link layoutCost}, but a layout that lacks something costs much instead of everything: a search finds out of it. */
function soft(problem: LayoutProblem, at: readonly number[]): number {
  const there = new Set(at)
  let lacking = 0
  for (let fn = 0; fn < problem.wanted; fn++) if (!there.has(fn)) lacking++
  if (lacking > 0) return 1e5 + 100 * lacking
  const cost = layoutCost(problem, at)
  return cost === Infinity ? 1e4 + 50 * (problem.banks - at.filter((fn) => fn === NEXT).length) : cost
}

/** A layout to begin with: what is wanted most on presses of the first bank, a way to the next bank in each. */
function dealt(problem: LayoutProblem, start: readonly number[], free: readonly number[], random: () => number): number[] {
  const { functions, tokens, slots, banks } = problem
  const at = [...start]
  const weights = functions.map((_, fn) => tokens.reduce((sum, t) => sum + (t.fn === fn ? t.weight : 0), 0) + 0.01 * random())
  const there = new Set(at)
  const rest = functions.map((_, fn) => fn).filter((fn) => !there.has(fn))
  rest.sort((a, b) => weights[b] - weights[a])
  const open = free.filter((s) => at[s] === EMPTY).sort((a, b) => order(slots[a]) - order(slots[b]))
  if (banks > 1)
    for (let bank = 0; bank < banks; bank++) {
      const last = open.filter((s) => slots[s].bank === bank).at(-1)
      if (last === undefined) continue
      at[last] = NEXT
      open.splice(open.indexOf(last), 1)
    }
  for (const slot of open) {
    const fn = rest.shift()
    if (fn === undefined) break
    at[slot] = fn
  }
  return at
}
const order = ({ bank, gesture, index }: Slot): number => bank * 1_000 + (gesture === 'press' ? 0 : 500) + index

/** Mulberry32: uniform in 0–1, the same for the same seed. Source: T. Ettinger, public domain, 2017 (from memory). */
function mulberry(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = state
    t = Math.imul(t ^ (t >>> 15), t | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296
  }
}

/** The board of a layout: the page of snapshots anew, the other page and locked switches as they are. */
export function boardOfLayout(
  { functions, slots }: LayoutProblem,
  { at }: Layout,
  before: Board,
  locked: ReadonlySet<string>,
  newId: () => string,
): Board {
  const kept = before.switches.filter((s) => s.page !== 'snapshots' || locked.has(s.id))
  const made = new Map<string, BoardSwitch>()
  at.forEach((fn, s) => {
    const { bank, index, gesture } = slots[s]
    const place = { page: 'snapshots' as const, bank, index }
    if (fn === EMPTY || kept.some((k) => k.page === 'snapshots' && k.bank === bank && k.index === index)) return
    const key = `${bank} ${index}`
    const old = before.switches.find((k) => k.page === 'snapshots' && k.bank === bank && k.index === index)
    const own = made.get(key) ?? { ...createSwitch(newId(), place), midi: old?.midi ?? null, both: old?.both ?? null }
    const does: SwitchFunction = fn >= 0 ? functions[fn] : { do: 'bank', by: fn === NEXT ? 1 : -1 }
    made.set(key, { ...own, [gesture]: does })
  })
  // what two switches do at once stays where it is
  const pairs = before.switches.filter((s) => s.both && !kept.includes(s) && !made.has(`${s.bank} ${s.index}`))
  for (const own of pairs) made.set(`${own.bank} ${own.index}`, { ...createSwitch(newId(), own), midi: own.midi, both: own.both })
  return { ...before, start: 'snapshots', switches: [...made.values(), ...kept] }
}

/** Where a function stands on the page of snapshots: “3”, “hold 3”, “bank 2: 3”. */
export function standsAt(board: Board, fn: SwitchFunction, capacity: DeviceCapacity): string[] {
  const key = keyOf(fn)
  return board.switches.flatMap((own) => {
    if (!hasRoom(capacity, own)) return []
    return usableFunctions(own, capacity).flatMap(({ gesture, fn: there }) => (keyOf(there) === key ? [placeWords(own, gesture)] : []))
  })
}

export const placeWords = ({ page, bank, index }: Pick<BoardSwitch, 'page' | 'bank' | 'index'>, gesture: Gesture): string =>
  `${page === 'singles' ? 'page of single switches: ' : bank > 0 ? `bank ${bank + 1}: ` : ''}${footWords(gesture, { index })}`
