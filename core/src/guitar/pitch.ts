import { pitchOf } from '@fulgor/core/measure'
import { Fft } from '@fulgor/core/signal'
import type { GuitarProfile } from './description'
import { noteHz, noteNumber } from './tuning'

/** How a guitar was tuned where it was heard. */
export interface HeardPitch {
  /** Hz of the A4 that all strings together are tuned to. */
  readonly a4: number
  /** Cents of each string off its note at the guitar's concert pitch; null where it was not heard alone. */
  readonly cents: readonly (number | null)[]
}

/** s after the stroke from which on a note is steady, and for which it is looked at. */
const AFTER_S = 0.12
const LOOK_S = 0.7
const CLEAR = 0.08
/** Cents off the string within which a note is taken for the open string. */
const NEAR_CENTS = 100

const median = (values: readonly number[]): number => values.slice().sort((a, b) => a - b)[values.length >> 1]

/**
 * Frequency of a partial near `hz`, by the turn of its phase between windows that follow each other (Flanagan & Golden, Bell System
 * Technical Journal 1966: phase derivative).
 */
export function refined(x: Float32Array, hz: number, sampleRate: number): number {
  const size = Math.min(x.length >> 1, Math.round(0.25 * sampleRate))
  const hop = Math.round(size / 8)
  let found = hz
  for (let turn = 0; turn < 4; turn++) {
    const w = (2 * Math.PI * found) / sampleRate
    let last: readonly [number, number] | null = null
    let [re, im] = [0, 0]
    for (let start = 0; start + size <= x.length; start += hop) {
      let [a, b] = [0, 0]
      for (let n = 0; n < size; n++) {
        const v = x[start + n] * (0.5 - 0.5 * Math.cos((2 * Math.PI * (n + 0.5)) / size))
        a += v * Math.cos(w * (start + n))
        b -= v * Math.sin(w * (start + n))
      }
      if (last) {
        // how far it has turned since, weighted by its power
        re += a * last[0] + b * last[1]
        im += b * last[0] - a * last[1]
      }
      last = [a, b]
    }
    const step = (Math.atan2(im, re) * sampleRate) / (2 * Math.PI * hop)
    found += step
    if (Math.abs(step) < 1e-4) break
  }
  return found
}

/**
 * What notes that sound alone, or else all chords together, tell of the tuning; null where nothing does.
 * @param strokes samples of their starts and ends
 */
export function pitchFrom(
  x: Float32Array,
  strokes: readonly { readonly from: number; readonly to: number }[],
  sampleRate: number,
  { a4, strings }: Pick<GuitarProfile, 'a4' | 'strings'>,
): HeardPitch | null {
  const perString = strings.map((): number[] => [])
  for (const { from, to } of strokes) {
    const start = from + Math.round(AFTER_S * sampleRate)
    const piece = x.subarray(start, Math.min(to, start + Math.round(LOOK_S * sampleRate)))
    const hz = steadyPitch(piece, sampleRate)
    if (hz === null) continue
    const offs = strings.map(({ note, cents }) => 1200 * Math.log2(hz / noteHz(noteNumber(note) ?? 69, a4)) - cents)
    const string = offs.reduce((best, off, k) => (Math.abs(off) < Math.abs(offs[best]) ? k : best), 0)
    if (Math.abs(offs[string]) <= NEAR_CENTS) perString[string].push(offs[string])
  }
  const cents = perString.map((list) => (list.length === 0 ? null : Math.round(10 * median(list)) / 10))
  const heard = cents.filter((c) => c !== null)
  if (heard.length > 0) return { a4: round(a4 * Math.pow(2, median(heard) / 1200)), cents }
  const off = chordsOff(x, strokes, sampleRate, a4)
  return off === null ? null : { a4: round(a4 * Math.pow(2, off / 1200)), cents }
}

const round = (hz: number): number => Math.round(Math.min(500, Math.max(380, hz)) * 10) / 10

/** Hz of a note that sounds alone; null of a chord. */
function steadyPitch(piece: Float32Array, sampleRate: number): number | null {
  const window = 4_096
  if (piece.length < 3 * window) return null
  const [a, b] = [pitchOf(piece.subarray(0, window), sampleRate), pitchOf(piece.subarray(2 * window, 3 * window), sampleRate)]
  if (!a || !b || a.aperiodicity > CLEAR || b.aperiodicity > CLEAR || Math.abs(Math.log2(a.hz / b.hz)) > 0.01) return null
  return refined(piece, b.hz, sampleRate)
}

const CHORD_HZ = [80, 1_000] as const
/** Chords that are looked at: more say nothing new. */
const CHORDS = 10

/** Cents that the partials of chords lie off equal temperament, as a circular mean: within half a semitone either way. */
function chordsOff(
  x: Float32Array,
  strokes: readonly { readonly from: number; readonly to: number }[],
  sampleRate: number,
  a4: number,
): number | null {
  let [re, im, sum] = [0, 0, 0]
  const size = 65_536
  const every = Math.ceil(strokes.length / CHORDS)
  for (const { from, to } of strokes.filter((_, k) => k % every === 0)) {
    const start = from + Math.round(AFTER_S * sampleRate)
    const length = Math.min(to, x.length) - start
    if (length < 0.3 * sampleRate) continue
    const [a, b] = [new Float64Array(size), new Float64Array(size)]
    const frames = Math.min(size, length)
    for (let n = 0; n < frames; n++) a[n] = x[start + n] * (0.5 - 0.5 * Math.cos((2 * Math.PI * (n + 0.5)) / frames))
    new Fft(size).forward(a, b)
    const level = (k: number) => Math.hypot(a[k], b[k])
    const [first, last] = CHORD_HZ.map((hz) => Math.round((hz * size) / sampleRate))
    let most = 0
    for (let k = first; k <= last; k++) most = Math.max(most, level(k))
    for (let k = first; k <= last; k++) {
      const here = level(k)
      if (here < 0.1 * most || here <= level(k - 1) || here < level(k + 1)) continue
      const [low, mid, high] = [level(k - 1), here, level(k + 1)].map((v) => Math.log(v + 1e-12))
      const hz = ((k + (0.5 * (low - high)) / (low - 2 * mid + high)) * sampleRate) / size
      const turn = 2 * Math.PI * 12 * Math.log2(hz / a4)
      re += here * Math.cos(turn)
      im += here * Math.sin(turn)
      sum += here
    }
  }
  // partials that agree on nothing tell nothing
  return sum > 0 && Math.hypot(re, im) > 0.5 * sum ? (100 * Math.atan2(im, re)) / (2 * Math.PI) : null
}
