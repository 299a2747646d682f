import { averageSpectrum, kWeightingPower, type Signal } from '@fulgor/core/measure'
import { spectrumOf } from './spectrum'

/** How much each frequency counts for loudness: K-weighted power of what a response is fed with, at (k + ½) or k · binHz. */
export interface Weights {
  readonly binHz: number
  readonly power: Float64Array
}

const PINK_FROM = 60
const PINK_TO = 12_000

/** Weights of pink noise from 60 Hz to 12 kHz: what a response is judged by while nothing is known of what plays through it. */
export function pinkWeights(bins: number, binHz: number): Weights {
  const power = new Float64Array(bins)
  let sum = 0
  for (let k = 1; k < bins; k++) {
    const hz = k * binHz
    if (hz < PINK_FROM || hz > PINK_TO) continue
    power[k] = kWeightingPower(hz) / hz
    sum += power[k]
  }
  for (let k = 1; k < bins; k++) power[k] /= sum
  return { binHz, power }
}

/** dB by which a response changes the loudness of what the weights describe. */
export function loudnessGainDb(re: Float64Array, im: Float64Array, binHz: number, weights: Weights): number {
  let sum = 0
  let all = 0
  const ratio = weights.binHz / binHz
  const last = re.length - 1
  for (let k = 1; k < weights.power.length; k++) {
    const weight = weights.power[k]
    if (weight === 0) continue
    const at = Math.min(last, k * ratio)
    const low = Math.floor(at)
    const high = Math.min(last, low + 1)
    const part = at - low
    const powerLow = re[low] * re[low] + im[low] * im[low]
    const powerHigh = re[high] * re[high] + im[high] * im[high]
    sum += weight * (powerLow + part * (powerHigh - powerLow))
    all += weight
  }
  return 10 * Math.log10(Math.max(sum / Math.max(all, 1e-30), 1e-20))
}

/** Where a response lets through less than this of its loudest, nothing is learnt of what came in. */
const FLOOR = 1e-6

/** Weights of what was fed into a linear chain with a known response, from what came out of it. */
export function weightsBehind(output: Signal, response: ArrayLike<number>, sampleRate: number): Weights {
  const { power, binHz } = averageSpectrum(output, sampleRate)
  const { re, im } = spectrumOf(response, 65_536, sampleRate)
  const gains = power.map((_, k) => {
    const at = Math.round(((k + 0.5) * binHz * 65_536) / sampleRate)
    return re[at] * re[at] + im[at] * im[at]
  })
  const floor = FLOOR * gains.reduce((most, g) => Math.max(most, g), 0)
  // a bin stands for the middle between its edges
  return { binHz, power: power.map((p, k) => (p * kWeightingPower((k + 0.5) * binHz)) / Math.max(gains[k], floor)) }
}
