import { Fft } from '@fulgor/core/signal'

/** Magnitudes of a Hann-windowed short-time transform, frame after frame. */
export interface Frames {
  /** One array a frame, bins 0 to size/2. */
  readonly magnitudes: readonly Float32Array[]
  readonly binHz: number
  /** Frames a second. */
  readonly rate: number
}

/** @param bins how many of each frame are kept */
export function framesOf(x: Float32Array, sampleRate: number, size: number, hop: number, bins = size / 2): Frames {
  const fft = new Fft(size)
  const window = Float64Array.from({ length: size }, (_, n) => 0.5 - 0.5 * Math.cos((2 * Math.PI * n) / size))
  const [re, im] = [new Float64Array(size), new Float64Array(size)]
  const magnitudes: Float32Array[] = []
  // two frames at a time: the real and the imaginary part of one transform
  for (let at = 0; at + size <= x.length; at += 2 * hop) {
    const second = at + hop + size <= x.length
    for (let n = 0; n < size; n++) {
      re[n] = x[at + n] * window[n]
      im[n] = second ? x[at + hop + n] * window[n] : 0
    }
    fft.forward(re, im)
    const [a, b] = [new Float32Array(bins), new Float32Array(bins)]
    for (let k = 0; k < bins; k++) {
      const m = k === 0 ? 0 : size - k
      a[k] = 0.5 * Math.hypot(re[k] + re[m], im[k] - im[m])
      b[k] = 0.5 * Math.hypot(im[k] + im[m], re[m] - re[k])
    }
    magnitudes.push(a)
    if (second) magnitudes.push(b)
  }
  return { magnitudes, binHz: sampleRate / size, rate: sampleRate / hop }
}

/** How much more there is of each frequency than a frame before, a value a frame; logarithmic, so that soft strokes count too. */
export function onsetStrength({ magnitudes }: Frames): Float64Array {
  const out = new Float64Array(magnitudes.length)
  const most = magnitudes.reduce((top, frame) => frame.reduce((m, v) => Math.max(m, v), top), 1e-9)
  const floor = most * 1e-4
  for (let f = 1; f < magnitudes.length; f++) {
    let sum = 0
    for (let k = 0; k < magnitudes[f].length; k++) sum += Math.max(0, Math.log((magnitudes[f][k] + floor) / (magnitudes[f - 1][k] + floor)))
    out[f] = sum / magnitudes[f].length
  }
  return out
}
