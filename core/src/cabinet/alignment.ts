import { fftOf, type HalfSpectrum } from './spectrum'

/** How a response must be moved to lie on another one. */
export interface Alignment {
  /** µs by which it comes later than the reference; negative: earlier. */
  readonly lateUs: number
  readonly inverted: boolean
  /** Height of the correlation, 0–1. */
  readonly likeness: number
}

/** How much higher the inverted match must be before polarity is turned: a tie is not turned. */
const INVERTED_MARGIN = 1.0005

/**
 * Delay and polarity of one response against another by cross-correlation: the highest peak on the sample grid, then Newton's
 * iteration on the band-limited correlation between the samples.
 * Source: Knapp & Carter, IEEE Trans. ASSP 1976 (plain correlator).
 * @param reachUs largest delay looked for
 */
export function alignTo(reference: HalfSpectrum, other: HalfSpectrum, reachUs = 6_000): Alignment {
  const bins = reference.re.length
  const size = 2 * (bins - 1)
  const sampleRate = reference.binHz * size
  const re = new Float64Array(size)
  const im = new Float64Array(size)
  let own = 0
  let others = 0
  // conj(reference) · other peaks at the lag by which the other one is late
  for (let k = 1; k < size / 2; k++) {
    const a = reference.re[k]
    const b = reference.im[k]
    const c = other.re[k]
    const d = other.im[k]
    re[k] = re[size - k] = a * c + b * d
    im[k] = a * d - b * c
    im[size - k] = -im[k]
    own += a * a + b * b
    others += c * c + d * d
  }
  const crossRe = re.slice(0, bins)
  const crossIm = im.slice(0, bins)
  fftOf(size).inverse(re, im)
  const reach = Math.min(size / 2 - 1, Math.ceil((reachUs * 1e-6 * sampleRate) / 1))
  let high = 0
  let low = 0
  for (let lag = -reach; lag <= reach; lag++) {
    const value = re[(lag + size) % size]
    if (value > re[(high + size) % size]) high = lag
    if (value < re[(low + size) % size]) low = lag
  }
  // the grid may miss the higher of two alike peaks: both are refined before they are compared
  const [up, down] = [high, low].map((start) => {
    const at = refine(crossRe, crossIm, start, size)
    return { lag: at, value: correlation(crossRe, crossIm, at, size).value }
  })
  const inverted = -down.value > INVERTED_MARGIN * up.value
  const { lag, value } = inverted ? down : up
  const norm = Math.sqrt(own * others) * 2
  const peak = Math.abs(value)
  return { lateUs: (lag / sampleRate) * 1e6, inverted, likeness: norm > 0 ? Math.min(1, (2 * peak) / norm) : 0 }
}

/** Σ Re(X·e^{jωτ}) and its first two derivatives by τ in frames. */
function correlation(re: Float64Array, im: Float64Array, lag: number, size: number): { value: number; first: number; second: number } {
  let value = 0
  let first = 0
  let second = 0
  const w1 = (2 * Math.PI) / size
  const c = Math.cos(w1 * lag)
  const s = Math.sin(w1 * lag)
  let pr = c
  let pi = s
  for (let k = 1; k < re.length - 1; k++) {
    const w = w1 * k
    const a = re[k] * pr - im[k] * pi
    const b = re[k] * pi + im[k] * pr
    value += a
    first -= w * b
    second -= w * w * a
    const next = pr * c - pi * s
    pi = pr * s + pi * c
    pr = next
  }
  return { value, first, second }
}

function refine(re: Float64Array, im: Float64Array, start: number, size: number): number {
  let lag = start
  for (let i = 0; i < 8; i++) {
    const { first, second } = correlation(re, im, lag, size)
    if (second === 0) break
    const step = -first / second
    const next = Math.min(start + 1, Math.max(start - 1, lag + Math.max(-0.5, Math.min(0.5, step))))
    if (Math.abs(next - lag) < 1e-6) return next
    lag = next
  }
  return lag
}

/** First null of two equal sounds of which one is late, Hz: 1/(2τ). */
export const firstNullHz = (lateUs: number): number => 1e6 / (2 * Math.abs(lateUs))
