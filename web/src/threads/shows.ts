import { planPresses, proposeLayout, type LayoutJob, type LayoutProposal, type Plan, type ShownPreset } from '@fulgor/core/plan'
import type { DeviceCapacity, Preset } from '@fulgor/core/preset'
import type { Show } from '@fulgor/core/show'
import { loudness } from '@fulgor/core/measure'
import { asPlayed, resolveValues } from '@fulgor/core/preset'
import { Engine } from '@fulgor/core/render'
import { CHUNK } from '@fulgor/core/signal'
import type { Task } from '../background/tasks'
import { context, measureOutput, ready, renderWhole, type Rendering } from './sounds'

/** How loud one sound is on its riff. */
export type { Rendering } from './sounds'

export interface SoundLevel {
  readonly lufs: number
  readonly truePeakDbtp: number
}

/** A piece of a rehearsal: what is heard from one change to the next. */
export interface Segment {
  readonly left: Float32Array
  readonly right: Float32Array
  /** LUFS of the piece; null: silent. */
  readonly lufs: number | null
  /** s of silence before it, while another preset was loaded. */
  readonly gapS: number
}

interface Run {
  engine: Engine
  preset: Preset
  frame: number
}
const runs = new Map<string, Run>()
/** Frames of one step of the engine. */
const STEP = 512

export const showTasks = {
  async soundLevel(task: Task, job: Rendering): Promise<SoundLevel> {
    const sound = await renderWhole(task, job, await ready(job))
    const { integratedLufs, truePeakDbtp } = measureOutput(sound, job.sampleRate)
    return { lufs: integratedLufs ?? -Infinity, truePeakDbtp: truePeakDbtp ?? -Infinity }
  },

  /**
   * The next piece of a rehearsal. Within a preset the engine plays on through the change, with its trails; another preset is loaded
   * anew, behind a gap.
   * @param run names it; a thread keeps the last one only
   * @param gapS s of silence that the device needs to load a preset
   */
  async runNext(task: Task, run: string, job: Rendering, seconds: number, gapS: number): Promise<Segment> {
    const dry = await ready(job)
    const preset = asPlayed(job.preset)
    const values = resolveValues(preset, job.snapshot)
    const before = runs.get(run)
    const loads = before?.preset !== job.preset && JSON.stringify(before?.preset) !== JSON.stringify(job.preset)
    const now: Run =
      before && !loads
        ? before
        : {
            engine: new Engine({ chain: preset.chain, values }, context(job.sampleRate, job.quality), job.sampleRate),
            preset: job.preset,
            frame: 0,
          }
    if (before && !loads) now.engine.setValues(values)
    runs.clear()
    runs.set(run, now)
    // the engine goes on in whole chunks
    const frames = Math.round((seconds * job.sampleRate) / CHUNK) * CHUNK
    const [left, right] = [new Float32Array(frames), new Float32Array(frames)]
    for (let n = 0; n < frames; n++) left[n] = dry[(now.frame + n) % dry.length]
    for (let from = 0; from < frames; from += STEP) {
      const to = Math.min(frames, from + STEP)
      now.engine.process(left.subarray(from, to), right.subarray(from, to), to - from)
      if (from % (64 * STEP) === 0) await task.breathe()
    }
    now.frame += frames
    const lufs = loudness([left, right], job.sampleRate).integratedLufs
    return { left, right, lufs, gapS: before && loads ? gapS : 0 }
  },

  planNight: (_task: Task, show: Show, order: string, presets: readonly ShownPreset[], capacity: DeviceCapacity | null): Plan =>
    planPresses(show, order, presets, capacity ?? undefined),

  /** Tells the share that is done. @param ids names for what is new */
  async layNight(task: Task, job: LayoutJob, ids: readonly string[]): Promise<LayoutProposal> {
    let next = 0
    const search = proposeLayout(job, () => ids[next++] ?? `new-${next}`)
    for (;;) {
      const { value, done } = search.next()
      if (done) return value
      task.tell(value)
      await task.breathe()
    }
  },
}
