import { modelOf, type BuildContext } from '@fulgor/core/catalogue'
import { effectiveParams, type StageNode } from '@fulgor/core/preset'
import { inPassing } from '@fulgor/core/signal'
import { StageRunner } from './stageRunner'
import { runThrough, type Sound } from './offline'

/** All of a stage, or only what of it stands before its first clip. */
export type StagePart = 'whole' | 'ahead'

/** A stage with fixed values, fed with a test signal. */
export function runStage(
  stage: StageNode,
  input: Float32Array,
  context: BuildContext,
  sampleRate: number,
  tempo: number,
  part: StagePart = 'whole',
): Sound {
  return inPassing((machine) => {
    const runner = new StageRunner(stage.id, modelOf(stage.model), context, sampleRate, machine)
    runner.apply({ [stage.id]: { on: true, params: effectiveParams(stage, stage.params, tempo) } }, true)
    if (part === 'ahead') runner.ahead()
    return runThrough(runner, machine, { left: input, right: input, stereo: false })
  })
}

/** Complex response at chosen frequencies. */
export interface ComplexResponse {
  readonly hz: readonly number[]
  readonly re: number[]
  readonly im: number[]
}

/**
 * Response of one stage to a small impulse, by direct Fourier sums, so that every frequency is exact. Linear stages are described
 * whole; of a clipping stage it is the small-signal response (impulse at −80 dBFS, a 16th note's worth of settling first).
 */
export function stageResponse(
  stage: StageNode,
  hz: readonly number[],
  context: BuildContext,
  sampleRate: number,
  tempo = 120,
  frames = 32_768,
  part: StagePart = 'whole',
): ComplexResponse {
  const settle = 4096
  const height = 1e-4
  const input = new Float32Array(settle + frames)
  input[settle] = height
  const quiet = runStage(stage, new Float32Array(settle + frames), context, sampleRate, tempo, part)
  const loud = runStage(stage, input, context, sampleRate, tempo, part)
  const impulse = new Float32Array(frames)
  for (let n = 0; n < frames; n++) impulse[n] = (loud.left[settle + n] - quiet.left[settle + n]) / height
  const [re, im] = fourierSums(impulse, hz, sampleRate)
  return { hz, re, im }
}

/** Samples of a stretch, whose phases are the same for every stretch but for that of its start. */
const STRETCH = 64

/** Real and imaginary parts of Σ x[n]·e^(−jωn) at each frequency. */
function fourierSums(x: Float32Array, hz: readonly number[], sampleRate: number): [number[], number[]] {
  const cos = new Float64Array(STRETCH)
  const sin = new Float64Array(STRETCH)
  const re: number[] = []
  const im: number[] = []
  for (const f of hz) {
    const w = (2 * Math.PI * f) / sampleRate
    for (let k = 0; k < STRETCH; k++) {
      cos[k] = Math.cos(w * k)
      sin[k] = Math.sin(w * k)
    }
    let sr = 0
    let si = 0
    for (let start = 0; start < x.length; start += STRETCH) {
      let a = 0
      let b = 0
      for (let k = 0, n = start; k < STRETCH && n < x.length; k++, n++) {
        a += x[n] * cos[k]
        b += x[n] * sin[k]
      }
      const c = Math.cos(w * start)
      const s = Math.sin(w * start)
      sr += a * c - b * s
      si -= b * c + a * s
    }
    re.push(sr)
    im.push(si)
  }
  return [re, im]
}

/** What a stage does to a steady 220 Hz tone, by input level. */
export interface StageFeel {
  /** Peak of the tone at the stage's input, dBFS. */
  readonly inputDb: readonly number[]
  /** RMS at its output, dBFS. */
  readonly outputDb: readonly number[]
  /** Total harmonic distortion, %. */
  readonly thd: readonly number[]
  /** Input levels at which the distortion first passes 1, 3 and 10 %, dBFS; null where it does not below 0 dBFS. */
  readonly edges: readonly { readonly thd: 1 | 3 | 10; readonly inputDb: number | null }[]
}

const EDGES = [1, 3, 10] as const

/**
 * Level curve and edge of breakup: a sine near 220 Hz (whole periods in 50 ms) at rising levels, each held for 150 ms before it is
 * analysed, so that supply and level followers have settled. THD is the root of the summed powers of harmonics 2 to 20 over the
 * fundamental.
 */
export function stageFeel(stage: StageNode, context: BuildContext, sampleRate: number, tempo = 120): StageFeel {
  return feelOf((input) => runStage(stage, input, context, sampleRate, tempo).left, sampleRate, levelsFrom(-72))
}

/** Levels from one on up to 0, 3 dB apart, dBFS. */
export const levelsFrom = (dbfs: number): number[] => Array.from({ length: Math.floor(-dbfs / 3) + 1 }, (_, i) => dbfs + 3 * i)

/**
 * {@link StageFeel} of anything that a mono signal runs through.
 * @param inputDb peaks of the tone, rising, dBFS
 */
export const feelOf = (run: (input: Float32Array) => Float32Array, sampleRate: number, inputDb: readonly number[]): StageFeel =>
  feelFrom(run(feelTone(sampleRate, inputDb)), sampleRate, inputDb)

/** Frames of a level: those until all has settled, and those that are analysed, with their whole periods of the tone. */
function levelFrames(sampleRate: number): { readonly settle: number; readonly frames: number; readonly periods: number } {
  const frames = Math.round(sampleRate * 0.05)
  return { settle: Math.round(sampleRate * 0.15), frames, periods: Math.round((220 * frames) / sampleRate) }
}

/** What {@link feelFrom} is to hear: the tone at one level after another. */
export function feelTone(sampleRate: number, inputDb: readonly number[]): Float32Array {
  const { settle, frames, periods } = levelFrames(sampleRate)
  const span = settle + frames
  const input = new Float32Array(span * inputDb.length)
  const turn = Float64Array.from({ length: frames }, (_, n) => Math.sin((2 * Math.PI * periods * n) / frames))
  inputDb.forEach((db, l) => {
    const amplitude = Math.pow(10, db / 20)
    for (let n = l * span, at = n % frames; n < (l + 1) * span; n++) {
      input[n] = amplitude * turn[at]
      if (++at === frames) at = 0
    }
  })
  return input
}

/** @param left what has become of {@link feelTone} at the same levels */
export function feelFrom(left: Float32Array, sampleRate: number, inputDb: readonly number[]): StageFeel {
  const { settle, frames, periods } = levelFrames(sampleRate)
  const span = settle + frames
  const outputDb: number[] = []
  const thd: number[] = []
  for (let l = 0; l < inputDb.length; l++) {
    const y = left.subarray(l * span + settle, (l + 1) * span)
    outputDb.push(10 * Math.log10(y.reduce((sum, x) => sum + x * x, 0) / frames + 1e-14))
    thd.push(distortion(y, periods, Math.min(20, Math.floor((0.45 * sampleRate) / 220))))
  }
  return { inputDb, outputDb, thd, edges: EDGES.map((share) => ({ thd: share, inputDb: crossing(inputDb, thd, share) })) }
}

let turn = { cos: new Float64Array(0), sin: new Float64Array(0) }

/** Cosine and sine of 2πn/frames over a whole turn. */
function turnOf(frames: number): { readonly cos: Float64Array; readonly sin: Float64Array } {
  const of = (f: (x: number) => number) => Float64Array.from({ length: frames }, (_, n) => f((2 * Math.PI * n) / frames))
  if (turn.cos.length !== frames) turn = { cos: of(Math.cos), sin: of(Math.sin) }
  return turn
}

/** THD in % of whole periods. */
function distortion(y: Float32Array, periods: number, harmonics: number): number {
  const [, fundamental, ...others] = harmonicPowers(y, periods, harmonics)
  const rest = others.reduce((sum, power) => sum + power, 0)
  // a rectifier leaves no fundamental at all
  return rest + fundamental < 1e-16 ? 0 : Math.min(1000, 100 * Math.sqrt(rest / Math.max(fundamental, 1e-30)))
}

/**
 * Powers of the harmonics from 1 on, by their number. The frames are put in the order of their phase; then of each half turn the odd
 * harmonics need only the difference to the other half and the even ones the sum, which is a turn of its own.
 */
function harmonicPowers(y: Float32Array, periods: number, harmonics: number): number[] {
  const frames = y.length
  const { cos, sin } = turnOf(frames)
  const powers = Array.from({ length: harmonics + 1 }, () => 0)
  let x = new Float64Array(frames)
  for (let n = 0, phase = 0; n < frames; n++) {
    x[phase] += y[n]
    phase += periods
    if (phase >= frames) phase -= frames
  }
  for (let first = 1; first <= harmonics; first *= 2) {
    const half = x.length / 2
    const isWhole = Number.isInteger(half)
    const odd = isWhole ? x.subarray(0, half).map((v, n) => v - x[n + half]) : x
    for (let h = first; h <= harmonics; h += isWhole ? 2 * first : first) {
      let [re, im] = [0, 0]
      for (let n = 0, at = 0; n < odd.length; n++) {
        re += odd[n] * cos[at]
        im += odd[n] * sin[at]
        at += h
        if (at >= frames) at -= frames
      }
      powers[h] = re * re + im * im
    }
    if (!isWhole) break
    x = x.subarray(0, half).map((v, n) => v + x[n + half])
  }
  return powers
}

/** Input level at which the curve first passes `share`, between the measured points by the logarithm of the distortion. */
function crossing(inputDb: readonly number[], thd: readonly number[], share: number): number | null {
  const at = thd.findIndex((t) => t >= share)
  if (at < 0) return null
  if (at === 0) return inputDb[0]
  const low = Math.log(Math.max(1e-6, thd[at - 1]))
  const part = (Math.log(share) - low) / (Math.log(thd[at]) - low)
  return inputDb[at - 1] + part * (inputDb[at] - inputDb[at - 1])
}

/**
 * Static level curve of a compressor or gate: RMS in and out of a 220 Hz sine held long enough to settle, dBFS.
 */
export function stageGain(
  stage: StageNode,
  context: BuildContext,
  sampleRate: number,
  tempo = 120,
): { inputDb: number[]; outputDb: number[] } {
  const inputDb = Array.from({ length: 29 }, (_, i) => -84 + 3 * i)
  const frames = Math.round(sampleRate * 0.05)
  const settle = Math.round(sampleRate * 0.5)
  const tone = Float64Array.from({ length: settle + frames }, (_, n) => Math.sin((2 * Math.PI * 220 * n) / sampleRate))
  const outputDb = inputDb.map((db) => {
    const amplitude = Math.pow(10, db / 20)
    const input = Float32Array.from(tone, (x) => amplitude * x)
    const { left } = runStage(stage, input, context, sampleRate, tempo)
    let sum = 0
    for (let n = settle; n < left.length; n++) sum += left[n] * left[n]
    return 10 * Math.log10((2 * sum) / frames + 1e-14)
  })
  return { inputDb, outputDb }
}

/** Level in dB of what follows a click, in steps of `stepMs`: RMS of the effect alone, 0 dB at its loudest step. */
export function stageTail(
  stage: StageNode,
  seconds: number,
  stepMs: number,
  context: BuildContext,
  sampleRate: number,
  tempo = 120,
): { ms: number[]; db: number[] } {
  const wet = 'mix' in stage.params ? { ...stage, params: { ...stage.params, mix: 100 } } : stage
  const input = new Float32Array(Math.round(seconds * sampleRate))
  for (let n = 0; n < 48; n++) input[n] = 0.5 - 0.5 * Math.cos((2 * Math.PI * n) / 48)
  const { left, right } = runStage(wet, input, context, sampleRate, tempo)
  const step = Math.round((stepMs / 1000) * sampleRate)
  const ms: number[] = []
  const power: number[] = []
  for (let start = 0; start + step <= left.length; start += step) {
    let sum = 0
    for (let n = start; n < start + step; n++) sum += left[n] ** 2 + right[n] ** 2
    ms.push((start / sampleRate) * 1000)
    power.push(sum)
  }
  const most = Math.max(...power, 1e-30)
  return { ms, db: power.map((p) => Math.max(-100, 10 * Math.log10(p / most + 1e-12))) }
}
