import type { HalfSpectrum } from './spectrum'

/** Frequencies that a response is drawn at: 40 Hz to 16 kHz, 24 an octave. */
export const CURVE_HZ: readonly number[] = Array.from({ length: 208 }, (_, i) => 40 * Math.pow(2, i / 24))

/** Power at each of {@link CURVE_HZ}: the mean over a twenty-fourth of an octave, or between bins where they are wider apart. */
export function curvePower({ re, im, binHz }: HalfSpectrum): Float64Array {
  const half = Math.pow(2, 1 / 48)
  return Float64Array.from(CURVE_HZ, (hz) => {
    const from = Math.ceil(hz / half / binHz)
    const to = Math.min(re.length - 1, Math.floor((hz * half) / binHz))
    if (to - from < 2) {
      const at = Math.min(re.length - 2, hz / binHz)
      const low = Math.floor(at)
      const part = at - low
      return (Math.hypot(re[low], im[low]) * (1 - part) + Math.hypot(re[low + 1], im[low + 1]) * part) ** 2
    }
    let sum = 0
    for (let k = from; k <= to; k++) sum += re[k] * re[k] + im[k] * im[k]
    return sum / (to - from + 1)
  })
}

export const powerDb = (power: number): number => 10 * Math.log10(Math.max(power, 1e-20))

/** A stretch where the sum lies 3 dB or more below the louder of its channels. */
export interface CancelledZone {
  readonly fromHz: number
  readonly toHz: number
  /** Where it is deepest, and by how much the sum is below the louder channel there. */
  readonly hz: number
  readonly depthDb: number
}

export interface Cancellation {
  readonly zones: readonly CancelledZone[]
  /** dB that the sum lies below the louder channel, mean over 80 Hz–8 kHz by octaves; 0 where it is never below. */
  readonly lostDb: number
  /** The deepest of all, also where it is no zone yet. */
  readonly deepest: { readonly hz: number; readonly depthDb: number } | null
}

const THRESHOLD_DB = 3
/** What lies this far under the loudest point is not heard, cancelled or not. */
const HEARD_DB = 36

/** Where and how much channels cancel. @param channels power of each at {@link CURVE_HZ} */
export function cancellation(channels: readonly Float64Array[], sum: Float64Array): Cancellation {
  if (channels.length < 2) return { zones: [], lostDb: 0, deepest: null }
  const louder = CURVE_HZ.map((_, i) => powerDb(Math.max(...channels.map((c) => c[i]))))
  const top = Math.max(...louder)
  const below = CURVE_HZ.map((_, i) => (louder[i] < top - HEARD_DB ? 0 : louder[i] - powerDb(sum[i])))
  const zones: CancelledZone[] = []
  for (let i = 0; i < below.length; i++) {
    if (below[i] < THRESHOLD_DB) continue
    const from = i
    let deep = i
    while (i + 1 < below.length && below[i + 1] >= THRESHOLD_DB) if (below[++i] > below[deep]) deep = i
    const edge = Math.pow(2, 1 / 48)
    zones.push({ fromHz: CURVE_HZ[from] / edge, toHz: CURVE_HZ[i] * edge, hz: CURVE_HZ[deep], depthDb: -below[deep] })
  }
  let lost = 0
  let count = 0
  let deepest = 0
  CURVE_HZ.forEach((hz, i) => {
    if (below[i] > below[deepest]) deepest = i
    if (hz < 80 || hz > 8_000) return
    lost += Math.max(0, below[i])
    count++
  })
  return {
    zones,
    lostDb: lost / count,
    deepest: below[deepest] > 0.05 ? { hz: CURVE_HZ[deepest], depthDb: -below[deepest] } : null,
  }
}
