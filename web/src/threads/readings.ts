import type { NumberSpec } from '@fulgor/core/catalogue'
import { applyEdit, frozen, judgedDry, resolveValues } from '@fulgor/core/preset'
import { gainSearch, readingSignals, readSnapshot, voiceIn, type Found, type Reading } from '@fulgor/core/reading'
import { feelOf, Renderer, renderPreset } from '@fulgor/core/render'
import type { Strength } from '@fulgor/core/riffs'
import type { Task } from '../background/tasks'
import { riffSource } from './riffSource'
import { context, loadRiff, ready, rendererFor, riffKey, type Rendering, type RiffSource } from './sounds'

/** Bytes of sounds that only readings hear; apart, so that they take no room of those that edits go on from. */
const KEPT_BYTES = 64e6
let reader: Renderer | null = null

export const readingTasks = {
  /** Everything that sound rules go by, of one snapshot. */
  async read(task: Task, job: Rendering): Promise<Reading> {
    const { preset, snapshot, sampleRate, quality } = job
    const named = (source: RiffSource, samples: Float32Array) => ({ key: riffKey(source, sampleRate), samples })
    const riff = named(job.riff, await ready(job))
    const played = async (strength: Strength) => {
      const source = riffSource(preset, snapshot, strength)
      return named(source, await loadRiff(source, sampleRate))
    }
    const hand = job.riff.kind === 'shipped' ? { soft: await played('soft'), hard: await played('hard') } : null
    const reading = readSnapshot(
      { preset, snapshot, ...readingSignals(riff, hand, voiceIn(preset, snapshot), sampleRate), sampleRate },
      (of, id, dry) => {
        const known = dry.key === riff.key && of === preset
        const renderer = known ? rendererFor(sampleRate, quality) : (reader ??= new Renderer(context(sampleRate, quality), KEPT_BYTES))
        return renderer.render({ preset: of, snapshot: id, dryKey: dry.key, dry: dry.samples, sampleRate })
      },
    )
    for (let next = reading.next(); ; next = reading.next()) {
      if (next.done) return next.value
      await task.breathe()
    }
  },

  /**
   * The most of a gain at which a tone does not distort by more than a share, without modulation, delay and reverb.
   * @param dbfs peak of the tone at the guitar
   * @param percent of harmonics
   */
  async gainFor(
    task: Task,
    { preset, snapshot, sampleRate, quality }: Rendering,
    { stage, param, spec }: { readonly stage: string; readonly param: string; readonly spec: NumberSpec },
    dbfs: number,
    percent: number,
  ): Promise<Found> {
    const search = gainSearch(spec, percent)
    let step = search.next(0)
    while (!step.done) {
      const turned = applyEdit(preset, { type: 'setParam', stage, snapshot, param, value: step.value })
      const plain = frozen(turned, snapshot, judgedDry(turned.chain, resolveValues(turned, snapshot)))
      const run = (input: Float32Array) =>
        renderPreset({ preset: plain, snapshot, dry: input, sampleRate }, context(sampleRate, quality)).left
      step = search.next(feelOf(run, sampleRate, [dbfs]).thd[0])
      await task.breathe()
    }
    return step.value
  },
}
