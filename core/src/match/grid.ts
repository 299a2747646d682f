import { bandPower, type Spectrum } from '@fulgor/core/measure'
import { Fft } from '@fulgor/core/signal'
import type { Trusted } from './distance'
import { soundingSpectrum } from './whole'

/** Bands that blends are ranked in, and points of each at which responses are read. */
export const BANDS = 64
export const POINTS_A_BAND = 8
const POINTS = BANDS * POINTS_A_BAND

/** Where sounds and responses are compared: bands of equal width on a logarithmic axis. */
export interface Grid {
  readonly trusted: Trusted
  /** Hz, one more than there are points. */
  readonly edges: Float64Array
  /** Hz, the middle of each point's share. */
  readonly points: Float64Array
}

export function gridOf(trusted: Trusted): Grid {
  const { fromHz, toHz } = trusted
  const at = (k: number) => fromHz * Math.pow(toHz / fromHz, k / POINTS)
  return {
    trusted,
    edges: Float64Array.from({ length: POINTS + 1 }, (_, k) => at(k)),
    points: Float64Array.from({ length: POINTS }, (_, k) => at(k + 0.5)),
  }
}

/** Power of a sound at each point. */
export function powerAt(grid: Grid, spectrum: Spectrum): Float32Array {
  return Float32Array.from(grid.points, (_, k) => bandPower(spectrum, grid.edges[k], grid.edges[k + 1]))
}

/** dB of a sound in each band. */
export function bandsAt(grid: Grid, spectrum: Spectrum): Float32Array {
  const power = powerAt(grid, spectrum)
  return Float32Array.from({ length: BANDS }, (_, b) => {
    let sum = 1e-20
    for (let k = b * POINTS_A_BAND; k < (b + 1) * POINTS_A_BAND; k++) sum += power[k]
    return 10 * Math.log10(sum)
  })
}

/** Longest window that there is: low notes lie apart in it. */
const WINDOW = 16_384

export const longSpectrum = (sides: readonly Float32Array[], sampleRate: number): Spectrum => soundingSpectrum(sides, sampleRate, WINDOW)

/** A response at each point, its first sound at nought. */
export interface Candidate {
  readonly re: Float32Array
  readonly im: Float32Array
  /** Samples by which its first sound comes late, at its own rate. */
  readonly onset: number
}

const SIZE = 8_192
let fft: Fft | null = null

/** @param taps of an impulse response */
export function candidateOf(grid: Grid, taps: ArrayLike<number>, sampleRate: number): Candidate {
  let peak = 0
  for (let n = 0; n < taps.length; n++) peak = Math.max(peak, Math.abs(taps[n]))
  let onset = 0
  while (onset < taps.length - 1 && Math.abs(taps[onset]) < 0.1 * peak) onset++
  const [x, y] = [new Float64Array(SIZE), new Float64Array(SIZE)]
  for (let n = 0; n < Math.min(taps.length, SIZE); n++) x[n] = taps[n]
  fft ??= new Fft(SIZE)
  fft.forward(x, y)
  const [re, im] = [new Float32Array(POINTS), new Float32Array(POINTS)]
  for (let k = 0; k < POINTS; k++) {
    const at = (grid.points[k] * SIZE) / sampleRate
    const b = Math.min(SIZE / 2 - 1, Math.floor(at))
    const share = at - b
    const [a, c] = [x[b] + share * (x[b + 1] - x[b]), y[b] + share * (y[b + 1] - y[b])]
    const turn = (2 * Math.PI * grid.points[k] * onset) / sampleRate
    re[k] = a * Math.cos(turn) - c * Math.sin(turn)
    im[k] = a * Math.sin(turn) + c * Math.cos(turn)
  }
  return { re, im, onset }
}
