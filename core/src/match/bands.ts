import { averageSpectrum, THIRD_OCTAVES, thirdOctaves } from '@fulgor/core/measure'
import { soundingBlocks, soundingSpectrum, wholeWindows } from './whole'

/** Third octaves of a sound. */
export interface Bands {
  /** dB, of its mean power; null where there is nothing. */
  readonly db: readonly (number | null)[]
  /** dB by which single half seconds differ, as a standard deviation, after their loudness is taken off. */
  readonly spread: readonly number[]
  /** Half seconds that sound. */
  readonly count: number
}

/** dB by which the mean of a band may move with other notes of the same sounds: the standard error of both means together. */
export const meanSpread = (a: Bands, b: Bands, k: number): number =>
  Math.hypot(a.spread[k] / Math.sqrt(Math.max(1, a.count)), b.spread[k] / Math.sqrt(Math.max(1, b.count)))

/** Longest window that there is: low notes lie apart in it. */
const WINDOW = 16_384
const SHORT = 4_096

/** @param sides one channel or two */
export function bandsOfSound(sides: readonly Float32Array[], sampleRate: number): Bands {
  const db = thirdOctaves(soundingSpectrum(sides, sampleRate, WINDOW)).map((b) => b.db)
  const { starts, frames } = soundingBlocks(sides, sampleRate)
  const sounding = starts.map((at) => {
    const block = wholeWindows(
      sides.map((x) => x.subarray(at, at + frames)),
      SHORT,
    )
    const bands = thirdOctaves(averageSpectrum(block, sampleRate, SHORT)).map((b) => b.db)
    return { bands, mean: meanOf(bands) }
  })
  const spread = THIRD_OCTAVES.map((_, k) => {
    const off = sounding.flatMap(({ bands, mean }) => {
      const band = bands[k]
      return band === null ? [] : [band - mean]
    })
    if (off.length < 2) return 0
    const middle = off.reduce((sum, v) => sum + v, 0) / off.length
    return Math.sqrt(off.reduce((sum, v) => sum + (v - middle) ** 2, 0) / (off.length - 1))
  })
  return { db, spread, count: starts.length }
}

/** Mean level of the bands of a guitar, dB. */
function meanOf(bands: readonly (number | null)[]): number {
  const inside = bands.flatMap((db, k) => (db !== null && THIRD_OCTAVES[k] >= 100 && THIRD_OCTAVES[k] <= 8_000 ? [db] : []))
  return inside.length === 0 ? -120 : inside.reduce((sum, db) => sum + db, 0) / inside.length
}

/** dB an octave that the third octaves fall by from 200 Hz to 6.3 kHz, by least squares. */
export function tiltOf(bands: readonly (number | null)[]): number | null {
  const points = bands.flatMap((db, k) =>
    db !== null && THIRD_OCTAVES[k] >= 200 && THIRD_OCTAVES[k] <= 6_300 ? [[Math.log2(THIRD_OCTAVES[k]), db] as const] : [],
  )
  if (points.length < 4) return null
  const [mx, my] = [0, 1].map((i) => points.reduce((sum, p) => sum + p[i], 0) / points.length)
  const over = points.reduce((sum, [x, y]) => sum + (x - mx) * (y - my), 0)
  return over / points.reduce((sum, [x]) => sum + (x - mx) ** 2, 0)
}
