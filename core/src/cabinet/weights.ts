/** How much each frequency counts for loudness: K-weighted power of what a response is fed with, at (k + ½) or k · binHz. */
export interface Weights {
  readonly binHz: number
  readonly power: Float64Array
}

const PINK_FROM = 60
const PINK_TO = 12_000

/**
 * Power response of the K-weighting at a frequency (ITU-R BS.1770-4, its two analog prototypes: shelf +4 dB at 1,682 Hz, high-pass
 * at 38 Hz).
 */
export function kWeightingPower(hz: number): number {
  const x = hz / 1681.974450955533
  const q = 0.7071752369554196
  const vh = Math.pow(10, 3.999843853973347 / 20)
  const vb = Math.pow(vh, 0.4996667741545416)
  const shelf = ((1 - vh * x * x) ** 2 + ((vb * x) / q) ** 2) / ((1 - x * x) ** 2 + (x / q) ** 2)
  const y = hz / 38.13547087602444
  const high = y ** 4 / ((1 - y * y) ** 2 + (y / 0.5003270373238773) ** 2)
  return shelf * high
}

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
