import { BEND, kernelFor } from './interpolation'
import { PIECE } from './kernel'
import { checkSignal, type Signal } from './loudness'

/** Largest sample magnitude, linear. */
export function samplePeak(signal: Signal): number {
  checkSignal(signal)
  let peak = 0
  for (const data of signal)
    for (let n = 0; n < data.length; n++) {
      const magnitude = data[n] < 0 ? -data[n] : data[n]
      if (magnitude > peak) peak = magnitude
    }
  return peak
}

/**
 * True peak: the largest magnitude at four times the sample rate (ITU-R BS.1770-4 annex 2), linear. Stretches that cannot beat the
 * peak found so far are skipped, since between two samples the signal rises no higher than it bends.
 * @returns 0 for silence
 */
export function truePeak(signal: Signal): number {
  checkSignal(signal)
  let peak = 0
  const kernel = kernelFor(4096)
  for (const data of signal)
    for (let start = 0; start < data.length; start += PIECE) {
      const frames = Math.min(PIECE, data.length - start)
      kernel.load(data, start, frames)
      peak = kernel.peakBetween(frames, Math.max(peak, kernel.scan(frames).peak), BEND)
    }
  return peak
}
