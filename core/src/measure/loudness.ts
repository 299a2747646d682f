import { kernelFor } from './interpolation'

/** A signal to measure: one or two channels of equal length, full scale ±1. */
export type Signal = readonly Float32Array[]

export interface Loudness {
  /** Null when every 400 ms block lies below the absolute gate: silence has no loudness. */
  readonly integratedLufs: number | null
  readonly rangeLu: number | null
  readonly momentaryMaxLufs: number | null
  readonly shortTermMaxLufs: number | null
}

const ABSOLUTE_GATE = -70

/**
 * Loudness of a mono or stereo signal: ITU-R BS.1770-4 (K-weighting, 400 ms blocks with 75 % overlap, gates at −70 LUFS and
 * −10 LU) and EBU Tech 3341/3342 (momentary, short-term, loudness range). A mono signal counts as one channel, so a stereo signal
 * with both sides alike is 3 LU louder than one of them.
 * @throws RangeError when the signal has no channel, more than two, or channels of unequal length
 */
export const loudness = (signal: Signal, sampleRate: number): Loudness => loudnessOfSteps(loudnessSteps(signal, sampleRate))

/** Loudness of a signal whose {@link loudnessSteps} are known. */
export function loudnessOfSteps(fine: Float64Array): Loudness {
  // the standard's blocks step by 100 ms; a maximum is looked for in steps of 10, or it would fall between two of them
  const steps = grouped(fine)
  return {
    integratedLufs: gatedLoudness(sliding(steps, 4), -10),
    rangeLu: loudnessRange(sliding(steps, 30)),
    momentaryMaxLufs: maximum(sliding(fine, 4 * FINE)),
    shortTermMaxLufs: maximum(sliding(fine, 30 * FINE)),
  }
}

/** @throws RangeError unless there are one or two channels of equal length */
export function checkSignal(signal: Signal): void {
  if (signal.length < 1 || signal.length > 2) throw new RangeError(`A signal has one or two channels, this one has ${signal.length}.`)
  if (signal.length === 2 && signal[0].length !== signal[1].length) throw new RangeError('The two channels differ in length.')
}

/** K-weighting of BS.1770-4 at any sample rate: its two sections as analog prototypes (shelf 1,682 Hz +4 dB, high-pass 38 Hz). */
export function kWeighting(sampleRate: number): Float64Array {
  const shelf = Math.tan((Math.PI * 1681.974450955533) / sampleRate)
  const q = 0.7071752369554196
  const vh = Math.pow(10, 3.999843853973347 / 20)
  const vb = Math.pow(vh, 0.4996667741545416)
  const a0 = 1 + shelf / q + shelf * shelf
  const high = Math.tan((Math.PI * 38.13547087602444) / sampleRate)
  const qh = 0.5003270373238773
  const h0 = 1 + high / qh + high * high
  return Float64Array.of(
    (vh + (vb * shelf) / q + shelf * shelf) / a0,
    (2 * (shelf * shelf - vh)) / a0,
    (vh - (vb * shelf) / q + shelf * shelf) / a0,
    (2 * (shelf * shelf - 1)) / a0,
    (1 - shelf / q + shelf * shelf) / a0,
    (2 * (high * high - 1)) / h0,
    (1 - high / qh + high * high) / h0,
  )
}

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

/** Fine steps of 10 ms in one of the standard's. */
const FINE = 10

function grouped(fine: Float64Array): Float64Array {
  return Float64Array.from({ length: Math.floor(fine.length / FINE) }, (_, k) => {
    let sum = 0
    for (let i = 0; i < FINE; i++) sum += fine[k * FINE + i]
    return sum / FINE
  })
}

/**
 * Sum over the channels of the K-weighted mean square of each full 10 ms step: all that a loudness goes by.
 * @throws RangeError as {@link checkSignal}
 */
export function loudnessSteps(signal: Signal, sampleRate: number): Float64Array {
  checkSignal(signal)
  const step = Math.round(sampleRate / (10 * FINE))
  const powers = new Float64Array(Math.floor(signal[0].length / step))
  kernelFor(4_096).weigh(signal, kWeighting(sampleRate), step, powers)
  for (let k = 0; k < powers.length; k++) powers[k] /= step
  return powers
}

/** Mean of every run of `count` steps. */
function sliding(steps: Float64Array, count: number): Float64Array {
  const out = new Float64Array(Math.max(0, steps.length - count + 1))
  const before = new Float64Array(steps.length + 1)
  for (let k = 0; k < steps.length; k++) before[k + 1] = before[k] + steps[k]
  for (let k = 0; k < out.length; k++) out[k] = Math.max(0, before[k + count] - before[k]) / count
  return out
}

const lufs = (power: number): number => -0.691 + 10 * Math.log10(power)
const powerOf = (level: number): number => Math.pow(10, (level + 0.691) / 10)

function meanAbove(powers: Float64Array, gate: number): number | null {
  let sum = 0
  let count = 0
  for (const power of powers)
    if (power > gate) {
      sum += power
      count++
    }
  return count === 0 ? null : sum / count
}

function gatedLoudness(powers: Float64Array, relativeLu: number): number | null {
  const absolute = powerOf(ABSOLUTE_GATE)
  const ungated = meanAbove(powers, absolute)
  if (ungated === null) return null
  const gated = meanAbove(powers, Math.max(absolute, ungated * Math.pow(10, relativeLu / 10)))
  return gated === null ? null : lufs(gated)
}

/** EBU Tech 3342: 10th to 95th percentile of short-term loudness above −70 LUFS and −20 LU. */
function loudnessRange(shortTerm: Float64Array): number | null {
  const absolute = powerOf(ABSOLUTE_GATE)
  const ungated = meanAbove(shortTerm, absolute)
  if (ungated === null) return null
  const kept = shortTerm.filter((p) => p > absolute && p >= ungated * 0.01).sort()
  const at = (share: number) => kept[Math.round((kept.length - 1) * share)]
  return lufs(at(0.95)) - lufs(at(0.1))
}

function maximum(powers: Float64Array): number | null {
  let most = 0
  for (const power of powers) most = Math.max(most, power)
  return most > powerOf(ABSOLUTE_GATE) ? lufs(most) : null
}
