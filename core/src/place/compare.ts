import { minimumPhase } from '@fulgor/core/cabinet'
import { dbToGain, design, identity, sectionsDb, type Section } from '@fulgor/core/signal'
import type { Place, PlaceBand } from './description'
import { CONTOUR_HZ, louderBalance } from './equalLoudness'

/** Rate that responses are told for; far above what they hold. */
const RATE = 96_000

function sectionsOf(bands: readonly PlaceBand[], sampleRate: number): Section[] {
  return bands.map(({ kind, hz, db, q }) => {
    const out = identity()
    if (kind === 'bell') design.bell(out, hz, q, db, sampleRate)
    else if (kind === 'low') design.lowShelf(out, hz, db, sampleRate)
    else design.highShelf(out, hz, db, sampleRate)
    return out
  })
}

/** dB that bands give at each frequency. */
export const bandsDb = (bands: readonly PlaceBand[], hz: readonly number[]): number[] => {
  const sections = sectionsOf(bands, RATE)
  return hz.map((f) => sectionsDb(sections, f, RATE))
}

/** What another place does to a balance. dB at {@link CONTOUR_HZ}. */
export interface PlaceDifference {
  /** Of the ear, because it is louder or softer there. */
  readonly ear: readonly number[]
  /** Of the rooms and loudspeakers. */
  readonly response: readonly number[]
  readonly sum: readonly number[]
  /** dB by which it is louder there. */
  readonly louder: number
  /** Mean over the lows (63–160 Hz) and over the top (4–10 kHz) against 500 Hz–2 kHz. */
  readonly lows: number
  readonly top: number
}

/** How a balance that was made at one place is heard at another. */
export function comparePlaces(here: Place, there: Place): PlaceDifference {
  const ear = louderBalance(here.level, there.level)
  const [from, to] = [here, there].map((p) => bandsDb([...p.response, ...(p.correction ?? [])], CONTOUR_HZ))
  const raw = to.map((db, k) => db - from[k])
  const mean = (values: readonly number[], low: number, high: number) => {
    const inside = values.filter((_, k) => CONTOUR_HZ[k] >= low && CONTOUR_HZ[k] <= high)
    return inside.reduce((sum, db) => sum + db, 0) / inside.length
  }
  // a response alone may lift everything: what counts is against the middle
  const middle = mean(raw, 500, 2_000)
  const response = raw.map((db) => db - middle)
  const sum = ear.map((db, k) => db + response[k])
  const level = mean(sum, 500, 2_000)
  return { ear, response, sum, louder: there.level - here.level, lows: mean(sum, 63, 160) - level, top: mean(sum, 4_000, 10_000) - level }
}

const tenth = (db: number): number => Math.round(10 * db) / 10
/** dB below which a band is not worth having. */
const LEAST_DB = 0.5

/**
 * At most three bands for the destination that bring the balance back: shelves below and above at usual places and a bell between, their
 * gains by a grid of tenths around what the ends need.
 */
export function proposeCorrection(here: Place, there: Place): PlaceBand[] {
  const { sum } = comparePlaces(here, { ...there, correction: null })
  const hz = CONTOUR_HZ
  const weight: readonly number[] = hz.map((f) => (f >= 50 && f <= 10_000 ? 1 : 0))
  const error = (bands: readonly PlaceBand[]): number => {
    const left = bandsDb(bands, hz).map((db, k) => db + sum[k])
    const mean = left.reduce((s, db, k) => s + weight[k] * db, 0) / weight.reduce((s, w) => s + w, 0)
    return left.reduce((s, db, k) => s + weight[k] * (db - mean) ** 2, 0)
  }
  let best: { error: number; bands: PlaceBand[] } = { error: error([]), bands: [] }
  for (const low of [90, 130, 190])
    for (const bell of [300, 1_500, 3_000])
      for (const high of [3_000, 5_000, 8_000]) {
        const bands: PlaceBand[] = [
          { kind: 'low', hz: low, db: 0, q: 0.7 },
          { kind: 'bell', hz: bell, db: 0, q: 0.8 },
          { kind: 'high', hz: high, db: 0, q: 0.7 },
        ]
        // one after another, a few times round: each takes what the others leave
        for (const step of [2, 0.5, 0.1])
          for (let round = 0; round < 6; round++)
            bands.forEach((band, k) => {
              const tried = [-step, 0, step].map((move) => {
                const next = bands.map((b, j) => (j === k ? { ...b, db: Math.max(-12, Math.min(12, tenth(band.db + move))) } : b))
                return { error: error(next), db: next[k].db }
              })
              bands[k] = { ...band, db: tried.reduce((a, b) => (b.error < a.error - 1e-9 ? b : a)).db }
            })
        const kept = bands.filter((b) => Math.abs(b.db) >= LEAST_DB)
        const found = error(kept)
        if (found < best.error - 0.01) best = { error: found, bands: kept }
      }
  return best.bands
}

/** A sound with bands set against a place, for an export that is for that place alone. */
export function correctSides(sides: readonly ArrayLike<number>[], bands: readonly PlaceBand[], sampleRate: number): Float64Array[] {
  return sides.map((x) => {
    const out = Float64Array.from(x)
    for (const { b0, b1, b2, a1, a2 } of sectionsOf(bands, sampleRate)) {
      let [s1, s2] = [0, 0]
      for (let n = 0; n < out.length; n++) {
        const y = b0 * out[n] + s1
        s1 = b1 * out[n] - a1 * y + s2
        s2 = b2 * out[n] - a2 * y
        out[n] = y
      }
    }
    return out
  })
}

/** Taps of {@link hearThere}. */
const TAPS = 2_048

/**
 * What makes a sound that is played here be heard as at another place: its response and the ear's balance at its level, without the
 * level itself. Minimum phase.
 */
export function hearThere(here: Place, there: Place, sampleRate: number): Float64Array {
  const { sum } = comparePlaces(here, there)
  const size = 2 * TAPS
  const magnitude = Float64Array.from({ length: size / 2 + 1 }, (_, b) => dbToGain(at(sum, (b * sampleRate) / size)))
  return minimumPhase(magnitude, size).slice(0, TAPS)
}

/** A curve at {@link CONTOUR_HZ} in between, held at its ends. */
function at(curve: readonly number[], hz: number): number {
  const last = CONTOUR_HZ.length - 1
  if (hz <= CONTOUR_HZ[0]) return curve[0]
  if (hz >= CONTOUR_HZ[last]) return curve[last]
  const k = CONTOUR_HZ.findIndex((f) => f > hz)
  const share = Math.log(hz / CONTOUR_HZ[k - 1]) / Math.log(CONTOUR_HZ[k] / CONTOUR_HZ[k - 1])
  return curve[k - 1] + share * (curve[k] - curve[k - 1])
}

/** dB that is worth a word. */
const WORD_DB = 1

/** The difference in one sentence. */
export function differenceWords(here: Place, there: Place): string {
  const { lows, top, louder } = comparePlaces(here, there)
  const part = (db: number, what: string) =>
    Math.abs(db) < WORD_DB ? null : `${Math.abs(db).toFixed(0)} dB ${db > 0 ? 'more' : 'less'} ${what}`
  const parts = [part(lows, 'lows'), part(top, 'top')].filter((p) => p !== null)
  const level = Math.abs(louder) < 1 ? 'as loud' : `${Math.abs(louder).toFixed(0)} dB ${louder > 0 ? 'louder' : 'softer'}`
  return parts.length === 0
    ? `At “${there.name}” it is ${level}, and the balance stays.`
    : `What was even at “${here.name}” has ${parts.join(' and ')} at “${there.name}”, where it is ${level}.`
}
