import { modelOf, type BuildContext } from '@fulgor/core/catalogue'
import { loudness } from '@fulgor/core/measure'
import type { StageNode } from '@fulgor/core/preset'
import { loudnessSearch } from './levelling'
import { runStage } from './probe'

/** Where a stage's level leads when it is to leave the loudness as it is without the stage. */
export interface Unity {
  /** dB, in the range of the stage's level. */
  readonly level: number
  /** LU that remain between on and off. */
  readonly residual: number
  /** True when the range of the level ended before. */
  readonly limited: boolean
}

/**
 * Searches the level at which a stage is as loud on as off. What follows may compress, so the level is found by regula falsi on the
 * measured loudness; a generator as {@link loudnessSearch}, given the LUFS with the stage on at the level that it yields.
 * @param level the stage's present level, dB
 * @param off LUFS with the stage off
 * @throws RangeError when nothing is heard with the stage on or off: silence has no loudness
 */
export function* unitySearch(level: number, off: number | null, model: string): Generator<number, Unity, number | null> {
  const spec = modelOf(model).params.level
  if (spec.kind !== 'number') throw new RangeError('This stage has no level.')
  if (off === null) throw new RangeError('There is nothing to measure: with this stage off the riff is silent.')
  const { value, residual, limited } = yield* loudnessSearch(level, spec, off)
  return { level: value, residual, limited }
}

/**
 * The level in dB at which a stage by itself leaves a sound as loud as it came in, whatever follows; null where it is silent. Not what
 * keeps a whole preset's loudness: see {@link unitySearch}.
 */
export function ownUnity(stage: StageNode, sound: Float32Array, context: BuildContext, sampleRate: number, tempo = 120): number | null {
  const { left, right, stereo } = runStage({ ...stage, params: { ...stage.params, level: 0 } }, sound, context, sampleRate, tempo)
  const before = loudness([sound], sampleRate).integratedLufs
  const after = loudness(stereo ? [left, right] : [left], sampleRate).integratedLufs
  return before === null || after === null ? null : before - after
}

/**
 * LU by which a stage by itself leaves a soft performance softer than a hard one: what it leaves of the hand's dynamics; null where one
 * of them is silent.
 */
export function stageDynamics(
  stage: StageNode,
  soft: Float32Array,
  hard: Float32Array,
  context: BuildContext,
  sampleRate: number,
): number | null {
  const [quiet, loud] = [soft, hard].map((sound) => {
    const { left, right, stereo } = runStage(stage, sound, context, sampleRate, 120)
    return loudness(stereo ? [left, right] : [left], sampleRate).integratedLufs
  })
  return quiet === null || loud === null ? null : loud - quiet
}
