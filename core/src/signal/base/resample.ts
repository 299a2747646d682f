import { bessel0 } from '../filters/bessel0'

/**
 * Resamples by a windowed sinc (Kaiser, β = 10, 32 zero crossings each side, cutoff at 0.95 of the lower Nyquist frequency):
 * flat within 0.01 dB to 0.9 of that band, images below −90 dB.
 * Source: Smith, Digital Audio Resampling, CCRMA 1984–2020.
 * @returns round(frames · to / from) samples; the input itself when the rates agree
 * @throws RangeError unless both rates are positive
 */
export function resample(signal: Float32Array, from: number, to: number): Float32Array {
  if (!(from > 0) || !(to > 0)) throw new RangeError(`Cannot resample from ${from} Hz to ${to} Hz.`)
  if (from === to) return signal
  const ratio = to / from
  const cutoff = 0.95 * Math.min(1, ratio)
  const half = 32 / cutoff
  const table = kernelTable(cutoff, half)
  const out = new Float32Array(Math.round(signal.length * ratio))
  for (let n = 0; n < out.length; n++) {
    const centre = n / ratio
    const first = Math.max(0, Math.ceil(centre - half))
    const last = Math.min(signal.length - 1, Math.floor(centre + half))
    let sum = 0
    for (let k = first; k <= last; k++) {
      const at = Math.abs(centre - k) * TABLE_STEPS
      const i = Math.floor(at)
      sum += signal[k] * (table[i] + (at - i) * (table[i + 1] - table[i]))
    }
    out[n] = sum
  }
  return out
}

const TABLE_STEPS = 512

function kernelTable(cutoff: number, half: number): Float64Array {
  const table = new Float64Array(Math.ceil(half * TABLE_STEPS) + 2)
  const norm = bessel0(10)
  for (let i = 0; i < table.length; i++) {
    const x = i / TABLE_STEPS
    const u = x / half
    if (u >= 1) continue
    const sinc = x === 0 ? 1 : Math.sin(Math.PI * cutoff * x) / (Math.PI * cutoff * x)
    table[i] = (cutoff * sinc * bessel0(10 * Math.sqrt(1 - u * u))) / norm
  }
  return table
}
