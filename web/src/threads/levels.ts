import { weightsBehind, type Weights } from '@fulgor/core/cabinet'
import { loudness, stageMeasures } from '@fulgor/core/measure'
import { applyEdit, findStage, resolveStage, resolveValues, type Preset, type StageNode } from '@fulgor/core/preset'
import { loudnessSearch, ownUnity, unitySearch, type Solved, type Sound, type Unity } from '@fulgor/core/render'
import type { Task } from '../background/tasks'
import { context, loadRiff, ready, renderWhole, type Rendering, type RiffSource } from './sounds'

/** A parameter that a loudness is sought by. */
export interface LevelTrim {
  readonly stage: string
  readonly param: string
  readonly start: number
  readonly min: number
  readonly max: number
  /** LU for one unit, to begin with. */
  readonly slope: number
}

/** Where a stage is as loud on as off. */
export type UnityPlace = 'own' | 'end'

/** LUFS behind one stage and at the end; null where it is silent. */
export type LoudnessAt = Readonly<Record<UnityPlace, number | null>>

/** Where a stage's level was led, and LU by which on is louder than off there and at the other place; null where one is silent. */
export interface UnityFound extends Unity {
  readonly more: LoudnessAt
}

/** Seconds of the strum that a pedal is set to unity by. */
const STRUM_SECONDS = 2.5

/** Runs a search whose measurements are rendered. */
async function searched<R>(search: Generator<number, R, number | null>, measure: (value: number) => Promise<number | null>): Promise<R> {
  let step = search.next(null)
  while (!step.done) step = search.next(await measure(step.value))
  return step.value
}

async function loudnessAt(task: Task, job: Rendering, dry: Float32Array, stage: string): Promise<LoudnessAt> {
  const lufs = ({ left, right }: Sound) => loudness([left, right], job.sampleRate).integratedLufs
  let own: number | null = null
  const whole = await renderWhole(task, job, dry, (tap) => {
    if (tap.stage === stage) own = lufs(tap.sound)
  })
  return { own, end: lufs(whole) }
}

const less = (a: number | null, b: number | null): number | null => (a === null || b === null ? null : a - b)

const withParam = (preset: Preset, snapshot: string, stage: string, param: string, value: number): Preset =>
  applyEdit(preset, { type: 'setParam', stage, snapshot, param, value })

export const levelTasks = {
  /** LUFS that each of these lanes brings into its sum, its strip included; null where it is silent. */
  async lanes(task: Task, job: Rendering, lanes: readonly string[]): Promise<Record<string, number | null>> {
    const found: Record<string, number | null> = {}
    await renderWhole(task, job, await ready(job), (tap) => {
      if (lanes.includes(tap.stage)) found[tap.stage] = loudness([tap.sound.left, tap.sound.right], job.sampleRate).integratedLufs
    })
    return found
  },

  async loudnessAt(task: Task, job: Rendering, stage: string): Promise<LoudnessAt> {
    return loudnessAt(task, job, await ready(job), stage)
  },

  /** The level at which a stage is as loud on as off, at its own output or at the preset's end. */
  async unity(task: Task, job: Rendering, stageId: string, place: UnityPlace): Promise<UnityFound> {
    const dry = await ready(job)
    const stage = findStage(job.preset, stageId)
    if (!stage) throw new Error('The stage is no longer there.')
    const { snapshot } = job
    const measured = (preset: Preset) => loudnessAt(task, { ...job, preset }, dry, stageId)
    const switched = (on: boolean) => applyEdit(job.preset, { type: 'setOn', stage: stageId, snapshot, on })
    const level = Number(resolveStage(job.preset, stage, snapshot).params.level)
    const on = switched(true)
    const off = await measured(switched(false))
    const at = (value: number) => measured(withParam(on, snapshot, stageId, 'level', value))
    const unity = await searched(unitySearch(level, off[place], stage.model), async (value) => (await at(value))[place])
    const now = await at(unity.level)
    return { ...unity, more: { own: less(now.own, off.own), end: less(now.end, off.end) } }
  },

  /** The level at which a stage by itself is as loud as what a hard strum of the guitar gives it, dB. */
  async ownUnity(_task: Task, stage: StageNode, riff: RiffSource, tempo: number, sampleRate: number): Promise<number | null> {
    const strum = (await loadRiff(riff, sampleRate)).slice(0, sampleRate * STRUM_SECONDS)
    return ownUnity(stage, strum, context(sampleRate, 'live'), sampleRate, tempo)
  },

  /**
   * The value of one parameter at which a snapshot meets a loudness, and the true peak there. What lies between the trim and the output
   * may compress, so it is rendered and metered until it is within 0.05 LU.
   */
  async level(task: Task, job: Rendering, trim: LevelTrim, target: number): Promise<Solved & { truePeakDbtp: number | null }> {
    const dry = await ready(job)
    let peak: number | null = null
    const solved = await searched(loudnessSearch(trim.start, trim, target, { slope: trim.slope }), async (value) => {
      const preset = withParam(job.preset, job.snapshot, trim.stage, trim.param, value)
      const { left, right } = await renderWhole(task, { ...job, preset }, dry)
      peak = stageMeasures([left, right], job.sampleRate).truePeakDbtp
      return loudness([left, right], job.sampleRate).integratedLufs
    })
    return { ...solved, truePeakDbtp: peak }
  },

  /**
   * How much each frequency counts for the loudness of the whole, before a cabinet has filtered it: the output's spectrum over the
   * cabinet's own response.
   */
  async weightsBefore(task: Task, job: Rendering, stageId: string): Promise<Weights> {
    const { left, right } = await renderWhole(task, job, await ready(job))
    return weightsBehind([left, right], responseOf(job, stageId), job.sampleRate)
  },
}

/** What a cabinet plays in a job's snapshot, or what passes it while it is off. */
function responseOf({ preset, snapshot, sampleRate, quality }: Rendering, stageId: string): ArrayLike<number> {
  const stage = resolveValues(preset, snapshot)[stageId]
  return stage.on ? context(sampleRate, quality).responses(String(stage.params.response)).left : [1]
}
