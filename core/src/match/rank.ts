import { instantiate } from '@fulgor/core/signal'
import { BANDS, POINTS_A_BAND, type Candidate, type Grid } from './grid'

const POINTS = BANDS * POINTS_A_BAND

/** What responses are heard with, and what they are to sound as. */
export interface Aim {
  readonly grid: Grid
  /** Power of the sound before the response, at each point. */
  readonly power: Float32Array
  /** dB of the recording in each band. */
  readonly wanted: Float32Array
}

/** A blend of two responses, or one alone. */
export interface Blend {
  /** Indices of the candidates; the second is null of one alone. */
  readonly first: number
  readonly second: number | null
  /** dB of the second against the first, both at equal power through the sound. */
  readonly levelDb: number
  readonly inverted: boolean
  /** µs that the second comes later than with both first sounds together. */
  readonly lateUs: number
  /** Root mean square of the bands' deviation from the recording at equal loudness, dB. */
  readonly db: number
}

/** Levels (dB of the second) and lags (µs) that every pair is tried with, in both polarities. */
export const COARSE = {
  levels: [-9, -6, -3, 0, 3, 6, 9],
  lags: Array.from({ length: 37 }, (_, k) => -720 + 40 * k),
} as const
/** Blends that every pair is tried as. */
export const BLENDS_A_PAIR = COARSE.levels.length * COARSE.lags.length * 2

/** Lags that a blend is refined in, µs: so many of them to a coarse one. */
const STEPS = 8
const FINE_US = 5
const LAGS = Array.from({ length: (COARSE.lags.length - 1) * STEPS + 1 }, (_, k) => COARSE.lags[0] + FINE_US * k)
const LEVEL_DB = 1.5
const MOST_LEVEL_DB = 12
/** Places of a pair that are gone on from: combs have many valleys. */
const VALLEYS = 4
/** dB that a coarse blend may be further off than what is kept, and still be gone on from. */
const ROOM_DB = 2.5

/** dB of twice the power: the kernel counts in octaves. */
const DB_AN_OCTAVE = 10 * Math.log10(2)

interface Kernel {
  memory: WebAssembly.Memory
  setup(count: number, lags: number, mixes: number): void
  wantedAt(): number
  bandsAt(): number
  reAt(): number
  imAt(): number
  turnsAt(): number
  mixesAt(): number
  resultAt(): number
  alone(first: number): number
  take(first: number, second: number): void
  blend(lag: number, share: number, both: number): number
  sweep(stride: number): void
}

/** Share of the second's power and of both's product, of a level and a polarity. */
const mixOf = (levelDb: number, inverted: boolean): readonly [number, number] => {
  const ratio = Math.pow(10, levelDb / 20)
  return [ratio * ratio, (inverted ? -2 : 2) * ratio]
}
const MIXES = COARSE.levels.flatMap((levelDb) => [false, true].map((inverted) => ({ levelDb, inverted })))

/** Candidates as they are heard with a sound, ready to be ranked. */
export class Ranking {
  readonly count: number
  /** dB by which each candidate was turned to be at equal power. */
  readonly gainDb: Float64Array
  private readonly kernel: Kernel

  constructor(
    readonly aim: Aim,
    candidates: readonly Candidate[],
  ) {
    this.count = candidates.length
    this.gainDb = new Float64Array(this.count)
    const kernel = instantiate('matching') as Kernel
    this.kernel = kernel
    kernel.setup(this.count, LAGS.length, MIXES.length)
    const view = (at: number, length: number) => new Float32Array(kernel.memory.buffer, at, length)
    view(kernel.wantedAt(), BANDS).set(aim.wanted.map((db) => db / DB_AN_OCTAVE))
    MIXES.forEach(({ levelDb, inverted }, k) => view(kernel.mixesAt() + 8 * k, 2).set(mixOf(levelDb, inverted)))
    // Re(A · conj(B e^−jωτ)) = Re(A conj B) cos ωτ − Im(A conj B) sin ωτ
    LAGS.forEach((us, lag) => {
      const turn = view(kernel.turnsAt() + lag * 8 * POINTS, 2 * POINTS)
      for (let k = 0; k < POINTS; k++) {
        const angle = 2 * Math.PI * aim.grid.points[k] * us * 1e-6
        turn[slotOf(k)] = Math.cos(angle)
        turn[POINTS + slotOf(k)] = -Math.sin(angle)
      }
    })
    const { count } = this
    const [re, im, bands] = [
      view(kernel.reAt(), count * POINTS),
      view(kernel.imAt(), count * POINTS),
      view(kernel.bandsAt(), count * BANDS),
    ]
    const root = aim.power.map(Math.sqrt)
    candidates.forEach((candidate, i) => {
      let whole = 1e-30
      for (let k = 0; k < POINTS; k++) whole += (candidate.re[k] * candidate.re[k] + candidate.im[k] * candidate.im[k]) * aim.power[k]
      const gain = 1 / Math.sqrt(whole)
      this.gainDb[i] = 20 * Math.log10(gain)
      for (let k = 0; k < POINTS; k++) {
        const at = i * POINTS + slotOf(k)
        re[at] = candidate.re[k] * root[k] * gain
        im[at] = candidate.im[k] * root[k] * gain
        bands[i * BANDS + Math.floor(k / POINTS_A_BAND)] += re[at] * re[at] + im[at] * im[at]
      }
    })
  }

  /** Every candidate alone, nearest first. */
  alone(): Blend[] {
    return Array.from({ length: this.count }, (_, first) => ({
      first,
      second: null,
      levelDb: 0,
      inverted: false,
      lateUs: 0,
      db: Math.sqrt(Math.max(0, this.kernel.alone(first))),
    })).sort((a, b) => a.db - b.db)
  }

  /**
   * The best blend of two candidates.
   * @param worth dB beyond which the coarse levels and lags are enough
   */
  pair(first: number, second: number, worth = Infinity): Blend {
    const { kernel } = this
    kernel.take(first, second)
    kernel.sweep(STEPS)
    const count = COARSE.lags.length
    const squares = new Float32Array(kernel.memory.buffer, kernel.resultAt(), 2 * count)
    const places = new Int32Array(kernel.memory.buffer, kernel.resultAt(), 2 * count)
    const at = (lag: number) => (lag < 0 || lag >= count ? Infinity : squares[2 * lag])
    const valleys = Array.from({ length: count }, (_, lag) => lag)
      .filter((lag) => at(lag) <= at(lag - 1) && at(lag) <= at(lag + 1))
      .sort((a, b) => at(a) - at(b))
      .slice(0, VALLEYS)
      .map((lag): Place => ({ lag: lag * STEPS, ...MIXES[places[2 * lag + 1]], square: at(lag) }))
    let [best] = valleys
    if (Math.sqrt(Math.max(0, best.square)) <= worth)
      for (const valley of valleys) {
        const found = this.downFrom(valley)
        if (found.square < best.square) best = found
      }
    return {
      first,
      second,
      levelDb: best.levelDb,
      inverted: best.inverted,
      lateUs: LAGS[best.lag],
      db: Math.sqrt(Math.max(0, best.square)),
    }
  }

  /** Goes down from a place of the pair that was taken, by ever smaller steps of lag and level. */
  private downFrom(from: Place): Place {
    const { kernel } = this
    let best = from
    for (let step = STEPS / 2; step >= 1;) {
      const before = best.square
      for (const [level, lag] of AROUND) {
        const levelDb = best.levelDb + (level * step * LEVEL_DB) / (STEPS / 2)
        const next = best.lag + lag * step
        if (next < 0 || next >= LAGS.length || Math.abs(levelDb) > MOST_LEVEL_DB) continue
        const square = kernel.blend(next, ...mixOf(levelDb, best.inverted))
        if (square < best.square) best = { ...best, levelDb, lag: next, square }
      }
      if (best.square > before - 1e-3) step /= 2
    }
    return best
  }

  /**
   * Ranks pairs in all coarse levels, lags and polarities: the best blend of each counts.
   * @param of which candidates are paired
   * @param rows which of them come first: a share of the work
   * @param most how many are kept
   */
  pairs(of: readonly number[], rows: readonly number[], most: number): { best: Blend[]; blends: number } {
    let kept: Blend[] = []
    let [worst, blends] = [Infinity, 0]
    for (const row of rows)
      for (let column = row + 1; column < of.length; column++) {
        blends += BLENDS_A_PAIR
        const blend = this.pair(of[row], of[column], worst + ROOM_DB)
        if (blend.db >= worst) continue
        kept.push(blend)
        if (kept.length < 2 * most) continue
        kept = nearest(kept, most)
        worst = kept[most - 1].db
      }
    return { best: nearest(kept, most), blends }
  }
}

/** Where a blend stands while it is looked for. */
interface Place {
  readonly lag: number
  readonly levelDb: number
  readonly inverted: boolean
  readonly square: number
}

/** Place of a point in the kernel: four bands lie side by side. */
const slotOf = (k: number): number => (k % POINTS_A_BAND) * BANDS + Math.floor(k / POINTS_A_BAND)

const AROUND = [
  [0, -1],
  [0, 1],
  [-1, 0],
  [1, 0],
  [-1, -1],
  [1, 1],
  [-1, 1],
  [1, -1],
] as const

const nearest = (blends: readonly Blend[], most: number): Blend[] => [...blends].sort((a, b) => a.db - b.db).slice(0, most)
