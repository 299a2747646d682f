import {
  outputMeasures,
  loudness,
  stageMeasures,
  type Band,
  type OutputLevels,
  type OutputMeasures,
  type StageMeasures,
} from '@fulgor/core/measure'
import { switchFigures, type Sound, type SwitchFigures, type Tap } from '@fulgor/core/render'
import type { Task } from '../background/tasks'
import {
  askForTap,
  context,
  fetchWav,
  measureOutput,
  measureTap,
  measureWithHelp,
  ready,
  renderSofter,
  renderWhole,
  type Rendering,
} from './sounds'

export interface SweepPoint {
  readonly lufs: number | null
  readonly truePeakDbtp: number | null
  readonly centroidHz: number | null
}

/** Of a snapshot's output; the bands are null where they were not asked for. */
export interface SnapshotFigures {
  readonly levels: OutputLevels
  readonly bands: readonly Band[] | null
}

/** What `measure` tells of a stage before its answer is there. */
export interface StagePart {
  readonly stage: string
  readonly measures: StageMeasures
}

const lufsOf = ({ left, right }: Sound, sampleRate: number): number | null => loudness([left, right], sampleRate).integratedLufs

export const measuringTasks = {
  /**
   * Measures one snapshot.
   * @param stages tells each stage ({@link StagePart}) and measures the bands; false leaves them out, for the sake of speed
   */
  async measure(task: Task, job: Rendering, stages: boolean): Promise<SnapshotFigures> {
    const taps: Tap[] = []
    const sound = await renderWhole(task, job, await ready(job), (tap) => {
      if (!stages) return
      taps.push(tap)
      askForTap(tap, job.sampleRate)
    })
    if (!stages) return { levels: measureOutput(sound, job.sampleRate), bands: null }
    const output = await measureWithHelp(task, sound, taps, job.sampleRate)
    for (const tap of taps) task.tell({ stage: tap.stage, measures: measureTap(tap, job.sampleRate) } satisfies StagePart)
    return output
  },

  /** A stored recording, measured as an output is; one channel counts as both sides. */
  async recording(_task: Task, hash: string): Promise<OutputMeasures> {
    const { channels, sampleRate } = await fetchWav(hash, 'This recording is not on this machine.')
    const sides = [channels[0], channels.at(1) ?? channels[0]]
    return outputMeasures(sides, sampleRate)
  },

  /** LUFS of the output. */
  async loudness(task: Task, job: Rendering): Promise<number | null> {
    return lufsOf(await renderWhole(task, job, await ready(job)), job.sampleRate)
  },

  /**
   * What is measured at one position of a source: a preset whose values are frozen there.
   * @param moved stages that the source moves
   * @param inputDb dB that the riff is played softer by, below 0
   */
  async point(task: Task, job: Rendering, moved: readonly string[], inputDb: number): Promise<SweepPoint> {
    const dry = await ready(job)
    await task.breathe()
    const sound = inputDb === 0 ? await renderWhole(task, job, dry, undefined, moved) : renderSofter(job, dry, inputDb)
    const { truePeakDbtp, centroidHz } = stageMeasures([sound.left, sound.right], job.sampleRate)
    return { lufs: lufsOf(sound, job.sampleRate), truePeakDbtp, centroidHz }
  },

  /** What is heard when one snapshot gives way to each of the others. */
  async switching(task: Task, job: Rendering, targets: readonly string[]): Promise<SwitchFigures[]> {
    for (const snapshot of targets) await ready({ ...job, snapshot })
    const dry = await ready(job)
    // a riff that is too short for it is played in a loop
    const enough = new Float32Array(Math.max(dry.length, Math.ceil(3.6 * job.sampleRate)))
    for (let at = 0; at < enough.length; at += dry.length) enough.set(dry.subarray(0, Math.min(dry.length, enough.length - at)), at)
    const found: SwitchFigures[] = []
    for (const figures of switchFigures(job.preset, job.snapshot, targets, enough, job.sampleRate, context(job.sampleRate, job.quality))) {
      found.push(figures)
      await task.breathe()
    }
    return found
  },
}
