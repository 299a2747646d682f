import { REGIONS } from '@fulgor/core/cabinet'
import { averageSpectrum, centroid, loudness, samplePeak, THIRD_OCTAVES } from '@fulgor/core/measure'
import type { View } from '@fulgor/core/recording'
import { bandsOfSound, type Bands } from './bands'
import { framesOf } from './frames'
import { viewOf } from './inspect'

/** What two sounds are compared by, besides their third octaves. */
export interface Portrait {
  readonly bands: Bands
  readonly lufs: number | null
  readonly brightnessHz: number | null
  /** Power of a region over that of all of it, dB. */
  readonly bodyDb: number
  readonly biteDb: number
  readonly fizzDb: number
  /** dB of the peak over the RMS. */
  readonly crestDb: number
  /** Share of the power that the sides differ in, %: 0 is mono, 50 two players who share nothing. */
  readonly widthPercent: number
  /** dB; see {@link densityOf}. */
  readonly densityDb: number
}

/** @returns null for silence */
export function portraitOf(sides: readonly Float32Array[], sampleRate: number, view: View): Portrait | null {
  const x = viewOf(sides, view)
  const peak = samplePeak([x])
  if (peak < 1e-4) return null
  const bands = bandsOfSound([x], sampleRate)
  const region = ([from, to]: readonly [number, number]): number => {
    let [part, whole] = [1e-12, 1e-12]
    bands.db.forEach((db, k) => {
      const power = db === null ? 0 : Math.pow(10, db / 10)
      whole += power
      if (THIRD_OCTAVES[k] >= from && THIRD_OCTAVES[k] <= to) part += power
    })
    return 10 * Math.log10(part / whole)
  }
  const [left, right = left] = sides
  let [same, apart] = [1e-18, 0]
  for (let n = 0; n < left.length; n++) {
    same += (left[n] + right[n]) ** 2
    apart += (left[n] - right[n]) ** 2
  }
  return {
    bands,
    lufs: loudness([left, right], sampleRate).integratedLufs,
    brightnessHz: centroid(averageSpectrum([x], sampleRate)),
    bodyDb: region(REGIONS.body),
    biteDb: region(REGIONS.bite),
    fizzDb: region(REGIONS.fizz),
    crestDb: crestOf(x),
    widthPercent: (100 * apart) / (same + apart),
    densityDb: densityOf(x, sampleRate),
  }
}

/** dB of the peak over the RMS. */
export function crestOf(x: Float32Array): number {
  let [peak, power] = [1e-9, 1e-18]
  for (const v of x) {
    peak = Math.max(peak, Math.abs(v))
    power += v * v
  }
  return 20 * Math.log10(peak / Math.sqrt(power / x.length))
}

const SIZE = 4_096
const HOP = 4_096
/** Bands in which the valleys between the partials are looked at, Hz: an octave each. */
const OCTAVES = [350, 700, 1_400, 2_800] as const
const REST_DB = 25
/** Share of a frame's power from which on an octave of it is heard. */
const HEARD = 1e-4

/**
 * How filled a sound is between its partials: the geometric over the arithmetic mean of the power in each octave from 350 Hz to 5.6 kHz
 * (spectral flatness; Johnston, IEEE J. Sel. Areas Commun. 1988), over frames of 4,096 samples that sound. 0 dB is noise, −20 dB a clean
 * string; what clips fills the valleys. An equaliser, which turns neighbours alike, hardly moves it.
 */
export function densityOf(x: Float32Array, sampleRate: number): number {
  const { magnitudes, binHz } = framesOf(x, sampleRate, SIZE, HOP, Math.ceil((5_700 * SIZE) / sampleRate))
  const levels = magnitudes.map((frame) => 10 * Math.log10(frame.reduce((sum, v) => sum + v * v, 1e-18)))
  const loudest = Math.max(-180, ...levels)
  let [sum, count] = [0, 0]
  magnitudes.forEach((frame, f) => {
    if (levels[f] < loudest - REST_DB) return
    const least = HEARD * Math.pow(10, levels[f] / 10)
    for (const from of OCTAVES) {
      let [logs, powers, bins] = [0, 0, 0]
      for (let b = Math.ceil(from / binHz); b < Math.min(frame.length, (2 * from) / binHz); b++) {
        const power = frame[b] * frame[b] + 1e-14
        logs += Math.log10(power)
        powers += power
        bins++
      }
      if (powers < least) continue
      sum += (10 * logs) / bins - 10 * Math.log10(powers / bins)
      count++
    }
  })
  return count === 0 ? -60 : sum / count
}
