import { modelOf, type BuildContext } from '@fulgor/core/catalogue'
import { effectiveParams, type StageNode } from '@fulgor/core/preset'
import { StageRunner } from './stageRunner'
import { runThrough, type Sound } from './offline'

/** A stage with fixed values, fed with a test signal. */
function runStage(stage: StageNode, input: Float64Array, context: BuildContext, sampleRate: number, tempo: number): Sound {
  const runner = new StageRunner(stage.id, modelOf(stage.model), context, sampleRate)
  runner.apply({ [stage.id]: { on: true, params: effectiveParams(stage, stage.params, tempo) } }, true)
  return runThrough(runner, { left: input, right: input, stereo: false })
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
): ComplexResponse {
  const settle = 4096
  const height = 1e-4
  const input = new Float64Array(settle + frames)
  input[settle] = height
  const quiet = runStage(stage, new Float64Array(settle + frames), context, sampleRate, tempo)
  const loud = runStage(stage, input, context, sampleRate, tempo)
  const impulse = new Float64Array(frames)
  for (let n = 0; n < frames; n++) impulse[n] = (loud.left[settle + n] - quiet.left[settle + n]) / height
  const re: number[] = []
  const im: number[] = []
  for (const f of hz) {
    const c = Math.cos((2 * Math.PI * f) / sampleRate)
    const s = Math.sin((2 * Math.PI * f) / sampleRate)
    let pr = 1
    let pi = 0
    let sr = 0
    let si = 0
    for (let n = 0; n < frames; n++) {
      sr += impulse[n] * pr
      si += impulse[n] * pi
      const next = pr * c + pi * s
      pi = pi * c - pr * s
      pr = next
    }
    re.push(sr)
    im.push(si)
  }
  return { hz, re, im }
}

/** Output peak in dBFS of a steady 220 Hz sine against its input peak in dBFS. */
export function stageTransfer(
  stage: StageNode,
  inputDb: readonly number[],
  context: BuildContext,
  sampleRate: number,
  tempo = 120,
): number[] {
  const settle = Math.round(sampleRate * 0.12)
  const frames = settle + Math.round(sampleRate / 22)
  return inputDb.map((level) => {
    const amplitude = Math.pow(10, level / 20)
    const input = Float64Array.from({ length: frames }, (_, n) => amplitude * Math.sin((2 * Math.PI * 220 * n) / sampleRate))
    const { left } = runStage(stage, input, context, sampleRate, tempo)
    let peak = 0
    for (let n = settle; n < frames; n++) peak = Math.max(peak, Math.abs(left[n]))
    return peak > 1e-7 ? 20 * Math.log10(peak) : -140
  })
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
  const input = new Float64Array(Math.round(seconds * sampleRate))
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
