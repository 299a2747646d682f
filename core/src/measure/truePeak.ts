import { kernelFor, PIECE } from './kernel'
import { checkSignal, type Signal } from './loudness'

const PHASES = 4
const TAPS = 24

/** Three interpolating phases of a Kaiser-windowed sinc at four times the rate (the fourth phase is the signal itself). */
const filters = interpolators()
/** Between samples the signal can exceed its neighbours by no more than this factor. */
const REACH = Math.max(...filters.map((f) => f.reduce((sum: number, h) => sum + Math.abs(h), 0)))

function interpolators(): Float64Array[] {
  const beta = 7
  const bessel = (x: number) => {
    let sum = 1
    let term = 1
    for (let k = 1; k < 30; k++) sum += term *= (x / (2 * k)) ** 2
    return sum
  }
  return Array.from({ length: PHASES - 1 }, (_, p) => {
    const taps = Float64Array.from({ length: TAPS }, (_, k) => {
      const x = k - TAPS / 2 + 1 - (p + 1) / PHASES
      const u = x / (TAPS / 2)
      return (Math.sin(Math.PI * x) / (Math.PI * x)) * (bessel(beta * Math.sqrt(Math.max(0, 1 - u * u))) / bessel(beta))
    })
    const sum = taps.reduce((a, b) => a + b)
    return taps.map((h) => h / sum)
  })
}

/**
 * True peak: the largest magnitude at four times the sample rate (ITU-R BS.1770-4 annex 2), linear. Stretches that cannot beat the
 * peak found so far are skipped, since the interpolation's gain is bounded.
 * @returns 0 for silence
 */
export function truePeak(signal: Signal): number {
  checkSignal(signal)
  let peak = samplePeak(signal)
  for (const data of signal) peak = Math.max(peak, channelPeak(data, peak))
  return peak
}

/** Largest sample magnitude, linear. */
export function samplePeak(signal: Signal): number {
  let peak = 0
  for (const data of signal)
    for (let n = 0; n < data.length; n++) {
      const magnitude = data[n] < 0 ? -data[n] : data[n]
      if (magnitude > peak) peak = magnitude
    }
  return peak
}

function channelPeak(data: Float64Array, known: number): number {
  const kernel = kernelFor(4096)
  kernel.filters.set(filters.flatMap((f) => [...f]))
  let peak = known
  for (let start = 0; start < data.length; start += PIECE) {
    const frames = Math.min(PIECE, data.length - start)
    kernel.load(data, start - TAPS / 2, 0, frames + TAPS / 2 + 48)
    peak = Math.max(peak, kernel.peakBetween(frames, peak, REACH))
  }
  return peak
}
