import { Fft } from '@fulgor/core/signal'

/**
 * Minimum-phase impulse response with a wanted magnitude, by the real cepstrum.
 * Source: Oppenheim & Schafer, Discrete-Time Signal Processing, ch. 13 (homomorphic processing).
 * @param magnitude gain at bins 0 … size/2 of a transform of `size` (a power of two)
 * @returns `size` taps
 */
export function minimumPhase(magnitude: Float64Array, size: number): Float64Array {
  const fft = new Fft(size)
  const re = new Float64Array(size)
  const im = new Float64Array(size)
  // the logarithm of nothing is held 120 dB under the loudest bin
  const floor = 1e-6 * magnitude.reduce((most, x) => Math.max(most, x), 1e-30)
  for (let k = 0; k <= size / 2; k++) {
    const value = Math.log(Math.max(magnitude[k], floor))
    re[k] = value
    if (k > 0 && k < size / 2) re[size - k] = value
  }
  fft.inverse(re, im)
  for (let n = 1; n < size / 2; n++) {
    re[n] *= 2
    re[size - n] = 0
  }
  im.fill(0)
  fft.forward(re, im)
  for (let k = 0; k < size; k++) {
    const gain = Math.exp(re[k])
    const phase = im[k]
    re[k] = gain * Math.cos(phase)
    im[k] = gain * Math.sin(phase)
  }
  fft.inverse(re, im)
  return re
}

/** A response with the same magnitude whose energy comes as early as can be; its delay is lost. As long as the one given. */
export function cepstralMinimumPhase(taps: Float64Array): Float64Array {
  // eight times as long, or the cepstrum folds over itself
  let size = 2048
  while (size < 8 * taps.length) size *= 2
  const re = new Float64Array(size)
  const im = new Float64Array(size)
  re.set(taps)
  new Fft(size).forward(re, im)
  const magnitude = new Float64Array(size / 2 + 1)
  for (let k = 0; k < magnitude.length; k++) magnitude[k] = Math.hypot(re[k], im[k])
  return minimumPhase(magnitude, size).slice(0, taps.length)
}
