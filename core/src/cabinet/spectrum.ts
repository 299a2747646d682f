import { Fft } from '@fulgor/core/signal'

/** A spectrum from 0 to half the sample rate. */
export interface HalfSpectrum {
  readonly re: Float64Array
  readonly im: Float64Array
  readonly binHz: number
}

const ffts = new Map<number, Fft>()

export function fftOf(size: number): Fft {
  let fft = ffts.get(size)
  if (!fft) ffts.set(size, (fft = new Fft(size)))
  return fft
}

/** Spectrum of taps, zero-padded to `size`. */
export function spectrumOf(taps: ArrayLike<number>, size: number, sampleRate: number): HalfSpectrum {
  const re = new Float64Array(size)
  const im = new Float64Array(size)
  re.set(taps)
  fftOf(size).forward(re, im)
  return { re: re.slice(0, size / 2 + 1), im: im.slice(0, size / 2 + 1), binHz: sampleRate / size }
}
