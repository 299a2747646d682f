import { findModel, type BuildContext } from '@fulgor/core/catalogue'
import { createStage, type ParamMap } from '@fulgor/core/preset'
import { Fft, inPassing } from '@fulgor/core/signal'
import { runThrough } from './offline'
import { StageRunner } from './stageRunner'

/**
 * Worst alias below 16 kHz under the fundamental, dB, of a stage fed with a sine: harmonics fall on multiples of the sine's bin,
 * whatever stands between them is alias. Blackman-Harris window, 16,384 points.
 * @param hz of the sine; the nearest odd bin is taken
 * @param peak of the sine, linear
 */
export function worstAliasDb(model: string, params: ParamMap, hz: number, peak: number, context: BuildContext, sampleRate: number): number {
  const size = 16_384
  const bin = 2 * Math.floor((hz * size) / sampleRate / 2) + 1
  const settle = 2 * size
  const found = findModel(model)
  if (!found) throw new RangeError(`There is no stage model “${model}”.`)
  const input = Float32Array.from({ length: settle + size }, (_, n) => peak * Math.sin((2 * Math.PI * bin * n) / size))
  const { left } = inPassing((machine) => {
    const runner = new StageRunner('x', found, context, sampleRate, machine)
    runner.apply({ x: { on: true, params: createStage('x', model, params).params } }, true)
    return runThrough(runner, machine, { left: input, right: input, stereo: false })
  })
  const re = Float64Array.from({ length: size }, (_, n) => left[settle + n] * blackmanHarris(n / size))
  const im = new Float64Array(size)
  new Fft(size).forward(re, im)
  const level = (k: number) => Math.hypot(re[k], im[k])
  let strongest = 0
  for (let k = bin; k < (16_000 / sampleRate) * size; k += bin) strongest = Math.max(strongest, level(k))
  let worst = 0
  for (let k = 20; k < (16_000 / sampleRate) * size; k++) if (Math.abs(k - Math.round(k / bin) * bin) > 8) worst = Math.max(worst, level(k))
  return 20 * Math.log10(worst / Math.max(level(bin), strongest * 0.3))
}

const blackmanHarris = (t: number): number =>
  0.35875 - 0.48829 * Math.cos(2 * Math.PI * t) + 0.14128 * Math.cos(4 * Math.PI * t) - 0.01168 * Math.cos(6 * Math.PI * t)
