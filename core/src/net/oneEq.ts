import { modelOf, type NumberSpec } from '@fulgor/core/catalogue'
import {
  createStage,
  placeOf,
  resolveStage,
  type ChainNode,
  type Edit,
  type ParamMap,
  type Preset,
  type StageNode,
} from '@fulgor/core/preset'
import { design, FOURTH_ORDER_Q, gainToDb, identity, sectionResponse, type Section } from '@fulgor/core/signal'
import { NET_HZ, netAt } from './curve'
import type { NetSection, ResponseOf } from './net'

/** One parametric equaliser that does what several do. */
export interface OneEq {
  readonly stages: readonly string[]
  /** Largest difference from 50 Hz to 10 kHz where the sum lies above −30 dB, and where it is. */
  readonly errorDb: number
  readonly atHz: number
  /** The first one, or a new one in its place, takes over in this snapshot; the others are off there. */
  readonly edits: readonly Edit[]
}

const MODEL = 'eq.parametric'
const FROM_HZ = 50
const TO_HZ = 10_000
/** dB below which a difference is not heard beside the rest. */
const DEEP = -30
const SLOPES = ['off', '6', '12', '24'] as const
type Slope = (typeof SLOPES)[number]

/** Equalisers of a section that stand in one row with nothing between them that is not linear, and that no source moves. */
export function mergeable(preset: Preset, { contributors }: NetSection): StageNode[][] {
  const ids = new Set(contributors.filter((c) => c.family === 'eq').map((c) => c.stage))
  const moved = new Set((preset.controls ?? []).flatMap((c) => c.targets.map((t) => t.stage)))
  const groups: StageNode[][] = []
  const walk = (nodes: readonly ChainNode[]) => {
    let group: StageNode[] = []
    for (const node of nodes) {
      if (node.kind === 'parallel') {
        group = []
        for (const lane of node.lanes) walk(lane.nodes)
      } else if (ids.has(node.id) && !moved.has(node.id)) {
        if (group.length === 0) groups.push(group)
        group.push(node)
      } else if (!modelOf(node.model).linear) group = []
    }
  }
  walk(preset.chain)
  return groups.filter((g) => g.length > 1)
}

/**
 * Fits one parametric equaliser to several: cuts by slope, shelves and bells by Levenberg and Marquardt (Quarterly of Applied
 * Mathematics 1944; SIAM 1963), from bells put on the largest differences.
 * @param newId for the equaliser where none of them is parametric
 */
export function oneEqFor(
  preset: Preset,
  snapshot: string,
  group: readonly StageNode[],
  section: NetSection,
  responseOf: ResponseOf,
  tempo: number,
  sampleRate: number,
  newId: () => string,
): OneEq {
  const mine = section.contributors.filter((c) => group.some((s) => s.id === c.stage))
  const target = NET_HZ.map((_, k) => mine.reduce((sum, c) => sum + c.db[k], 0))
  const parametric = group.filter((s) => s.model === MODEL).map((s) => resolveStage(preset, s, snapshot).params)
  const params = fitted(target, parametric, sampleRate)
  const measured = responseOf({ ...createStage('fit', MODEL, params), on: true }, tempo)
  let [errorDb, atHz] = [0, 0]
  NET_HZ.forEach((hz, k) => {
    if (hz < FROM_HZ || hz > TO_HZ || target[k] < DEEP) return
    const error = Math.abs(measured[k] - target[k])
    if (error > errorDb) [errorDb, atHz] = [error, hz]
  })
  const own = group.find((s) => s.model === MODEL)
  const place = placeOf(preset, group[0].id)
  const id = own?.id ?? newId()
  const level = resolveStage(preset, own ?? group[0], snapshot).params.level
  return {
    stages: group.map((s) => s.id),
    errorDb,
    atHz,
    edits: [
      ...(own || !place ? [] : [{ type: 'addStage', stage: id, model: MODEL, lane: place.lane, index: place.index } as const]),
      ...Object.entries(params).map(([param, value]): Edit => ({ type: 'setParam', stage: id, snapshot, param, value })),
      ...(own ? [{ type: 'setParam', stage: id, snapshot, param: 'level', value: level } as const] : []),
      ...group.filter((s) => s.id !== id).map((s): Edit => ({ type: 'setOn', stage: s.id, snapshot, on: false })),
    ],
  }
}

const specs = modelOf(MODEL).params
const BELLS = [1, 2, 3] as const
/** Numbers that are fitted; frequencies and widths by their logarithm. */
const KEYS = [
  'lowCut',
  'lowShelf',
  'lowGain',
  ...BELLS.flatMap((n) => [`bell${n}`, `gain${n}`, `q${n}`]),
  'highShelf',
  'highGain',
  'highCut',
] as const
const isLog = (key: string): boolean => !/[gG]ain/.test(key)
const limits = (key: string): NumberSpec => specs[key] as NumberSpec
/** Where both are compared while it is fitted, Hz. */
const GRID = Array.from({ length: 110 }, (_, i) => 35 * Math.pow(14_000 / 35, i / 109))
/** Where shelves and cuts begin that nothing has placed, Hz. */
const START: Readonly<Record<string, number>> = { lowCut: 40, lowShelf: 150, highShelf: 5_000, highCut: 12_000 }

type Values = Record<string, number>

/** @param parametric what the parametric ones among them say: where their bands fit into one, that is the answer */
function fitted(target: readonly number[], parametric: readonly ParamMap[], sampleRate: number): ParamMap {
  const wanted = GRID.map((hz) => netAt(target, hz))
  const deep = (db: number): number => (db < DEEP ? 0.05 : db < -18 ? 0.4 : 1)
  const weights = wanted.map(deep)
  const at = (hz: number) => netAt(target, hz)
  const slopesAt = (hz: number, key: 'lowSlope' | 'highSlope'): readonly Slope[] => {
    const said = new Set(parametric.map((p) => p[key] as Slope).filter((s) => s !== 'off'))
    return at(hz) > -2 ? ['off'] : said.size === 1 ? [...said] : SLOPES.filter((s) => s !== '6')
  }
  let best: { error: number; values: Values; low: Slope; high: Slope } | null = null
  for (const low of slopesAt(30, 'lowSlope'))
    for (const high of slopesAt(16_000, 'highSlope')) {
      const blind = started(wanted, weights, low, high, sampleRate)
      for (const start of [...(parametric.length > 0 ? [gathered(parametric, blind)] : []), blind]) {
        const { values, error } = descend(start, wanted, weights, low, high, sampleRate)
        if (!best || error < best.error) best = { error, values, low, high }
      }
    }
  if (!best) throw new Error('Nothing was fitted.')
  const { values, low, high } = best
  const rounded = Object.fromEntries(KEYS.map((key) => [key, Number(values[key].toPrecision(4))]))
  return { ...rounded, lowSlope: low, highSlope: high }
}

/** Cuts where the target falls to −3 dB, and a bell on each of the largest differences that are left. */
function started(wanted: readonly number[], weights: readonly number[], low: Slope, high: Slope, sampleRate: number): Values {
  const values: Values = Object.fromEntries(
    KEYS.map((key) => [key, START[key] ?? (key.startsWith('q') ? 1 : key.startsWith('bell') ? 1_000 : 0)]),
  )
  const rising = wanted.findIndex((db) => db > -3)
  const falling = wanted.findLastIndex((db) => db > -3)
  if (low !== 'off' && rising > 0) values.lowCut = held('lowCut', GRID[rising])
  if (high !== 'off' && falling >= 0) values.highCut = held('highCut', GRID[falling])
  for (const n of BELLS) {
    const now = responseDb(values, low, high, sampleRate)
    const spec = limits(`bell${n}`)
    let most = -1
    GRID.forEach((hz, k) => {
      if (hz < spec.min || hz > spec.max) return
      if (most < 0 || weights[k] * Math.abs(wanted[k] - now[k]) > weights[most] * Math.abs(wanted[most] - now[most])) most = k
    })
    values[`bell${n}`] = GRID[most]
    values[`gain${n}`] = held(`gain${n}`, wanted[most] - now[most])
  }
  return values
}

/** The largest bands of several as far as one has room for them. */
function gathered(parametric: readonly ParamMap[], otherwise: Values): Values {
  const values = { ...otherwise }
  for (const [hz, slope] of [
    ['lowCut', 'lowSlope'],
    ['highCut', 'highSlope'],
  ] as const) {
    const cuts = parametric.filter((p) => p[slope] !== 'off').map((p) => Number(p[hz]))
    if (cuts.length > 0) values[hz] = hz === 'lowCut' ? Math.max(...cuts) : Math.min(...cuts)
  }
  for (const [hz, gain] of [
    ['lowShelf', 'lowGain'],
    ['highShelf', 'highGain'],
  ] as const) {
    const most = parametric.reduce((a, b) => (Math.abs(Number(b[gain])) > Math.abs(Number(a[gain])) ? b : a))
    values[hz] = Number(most[hz])
    values[gain] = Number(most[gain])
  }
  const bells = parametric
    .flatMap((p) => BELLS.map((n) => ({ hz: Number(p[`bell${n}`]), gain: Number(p[`gain${n}`]), q: Number(p[`q${n}`]) })))
    .sort((a, b) => Math.abs(b.gain) - Math.abs(a.gain))
    .slice(0, BELLS.length)
    .sort((a, b) => a.hz - b.hz)
  bells.forEach(({ hz, gain, q }, i) => {
    const n = BELLS[i]
    Object.assign(values, { [`bell${n}`]: held(`bell${n}`, hz), [`gain${n}`]: gain, [`q${n}`]: q })
  })
  return values
}

const held = (key: string, value: number): number => Math.min(limits(key).max, Math.max(limits(key).min, value))

function descend(
  start: Values,
  wanted: readonly number[],
  weights: readonly number[],
  low: Slope,
  high: Slope,
  sampleRate: number,
): { values: Values; error: number } {
  const free = KEYS.filter((key) => !(key === 'lowCut' && low === 'off') && !(key === 'highCut' && high === 'off'))
  const moved = (values: Values, step: readonly number[]): Values => ({
    ...values,
    ...Object.fromEntries(free.map((key, i) => [key, held(key, isLog(key) ? values[key] * Math.exp(step[i]) : values[key] + step[i])])),
  })
  const differences = (values: Values) => responseDb(values, low, high, sampleRate).map((db, k) => weights[k] * (wanted[k] - db))
  const squares = (d: readonly number[]) => d.reduce((sum, x) => sum + x * x, 0)
  let values = start
  let now = differences(values)
  let error = squares(now)
  let damping = 1
  for (let round = 0; round < 60 && damping < 1e6; round++) {
    const columns = free.map((key, i) => {
      const h = isLog(key) ? 0.01 : 0.05
      const up = differences(
        moved(
          values,
          free.map((_, j) => (j === i ? h : 0)),
        ),
      )
      return now.map((x, k) => (x - up[k]) / h)
    })
    const slope = columns.map((c) => c.reduce((sum, x, k) => sum + x * now[k], 0))
    const normal = columns.map((a) => columns.map((b) => a.reduce((sum, x, k) => sum + x * b[k], 0)))
    const step = solve(
      normal.map((row, i) => row.map((x, j) => (i === j ? x * (1 + damping) + 1e-6 : x))),
      slope,
    )
    const next = moved(values, step)
    const there = differences(next)
    const reached = squares(there)
    if (reached < error) {
      const little = error - reached < 1e-5 * error
      values = next
      now = there
      error = reached
      damping /= 4
      if (little) break
    } else damping *= 4
  }
  return { values, error }
}

/** Gauss with pivots. */
function solve(matrix: number[][], right: readonly number[]): number[] {
  const rows = matrix.map((row, i) => [...row, right[i]])
  const n = rows.length
  for (let c = 0; c < n; c++) {
    let pivot = c
    for (let r = c + 1; r < n; r++) if (Math.abs(rows[r][c]) > Math.abs(rows[pivot][c])) pivot = r
    ;[rows[c], rows[pivot]] = [rows[pivot], rows[c]]
    for (let r = c + 1; r < n; r++) {
      const factor = rows[r][c] / (rows[c][c] || 1e-12)
      for (let k = c; k <= n; k++) rows[r][k] -= factor * rows[c][k]
    }
  }
  const x = new Array<number>(n).fill(0)
  for (let r = n - 1; r >= 0; r--) {
    let sum = rows[r][n]
    for (let k = r + 1; k < n; k++) sum -= rows[r][k] * x[k]
    x[r] = sum / (rows[r][r] || 1e-12)
  }
  return x
}

/** dB of a parametric equaliser on the grid, by its sections. */
function responseDb(v: Values, low: Slope, high: Slope, rate: number): number[] {
  const sections: Section[] = []
  const add = (write: (out: Section) => void) => {
    const section = identity()
    write(section)
    sections.push(section)
  }
  if (low === '6') add((out) => design.highPass6(out, v.lowCut, rate))
  else if (low !== 'off')
    for (const q of low === '24' ? FOURTH_ORDER_Q : [Math.SQRT1_2]) add((out) => design.highPass(out, v.lowCut, q, rate))
  if (high === '6') add((out) => design.lowPass6(out, v.highCut, rate))
  else if (high !== 'off')
    for (const q of high === '24' ? FOURTH_ORDER_Q : [Math.SQRT1_2]) add((out) => design.lowPass(out, v.highCut, q, rate))
  add((out) => design.lowShelf(out, v.lowShelf, v.lowGain, rate))
  for (const n of BELLS) add((out) => design.bell(out, v[`bell${n}`], v[`q${n}`], v[`gain${n}`], rate))
  add((out) => design.highShelf(out, v.highShelf, v.highGain, rate))
  return GRID.map((hz) => sections.reduce((sum, s) => sum + gainToDb(Math.hypot(...sectionResponse(s, hz, rate))), 0))
}
