import { expose } from 'comlink'
import { cabinetResponses, responseLibrary, synthesiseResponse, weightsBehind, type Weights } from '@fulgor/core/cabinet'
import { readWav, type Wav } from '@fulgor/core/formats'
import { loudness, outputMeasures, stageMeasures, type OutputMeasures, type StageMeasures } from '@fulgor/core/measure'
import { applyEdit, effectiveParams, findStage, resolveStage, resolveValues, type Preset, type StageNode } from '@fulgor/core/preset'
import {
  mixLayers,
  placeLayer,
  ownUnity,
  Renderer,
  renderPreset,
  solveLoudness,
  switchFigures,
  stageFeel,
  stageGain,
  stageResponse,
  stageTail,
  unityLevel,
  type MixFigures,
  type Placement,
  type Sides,
  type Solved,
  type Sound,
  type StageFeel,
  type SwitchFigures,
  type Tap,
  type Unity,
} from '@fulgor/core/render'
import { playRiff, type Performance } from '@fulgor/core/riffs'
import { dbToGain, resample, type Quality } from '@fulgor/core/signal'
import { fileSource, loadFiles } from './responseFiles'

/** Where a dry signal comes from. */
export type RiffSource = { kind: 'shipped'; id: string; gainDb: number; played: Performance } | { kind: 'asset'; hash: string }

export interface MeasureJob {
  readonly token: number
  readonly preset: Preset
  readonly snapshot: string
  readonly riff: RiffSource
  readonly sampleRate: number
  readonly quality: Quality
}

export type ChartData =
  | { kind: 'response'; hz: number[]; db: number[] }
  | ({ kind: 'feel' } & StageFeel)
  | { kind: 'gain'; inputDb: number[]; outputDb: number[] }
  | { kind: 'tail'; ms: number[]; db: number[] }

export interface SweepPoint {
  readonly lufs: number | null
  readonly truePeakDbtp: number | null
  readonly centroidHz: number | null
}

const libraries = new Map<number, ReturnType<typeof responseLibrary>>()
const riffs = new Map<string, Promise<Float32Array>>()
const stageCache = new WeakMap<Sound, StageMeasures>()
const outputCache = new WeakMap<Sound, OutputMeasures>()
const renderers = new Map<string, Renderer>()
let wanted = 0

function context(sampleRate: number, quality: Quality) {
  let responses = libraries.get(sampleRate)
  if (!responses) libraries.set(sampleRate, (responses = responseLibrary(sampleRate, fileSource)))
  return { quality, responses }
}

/** One renderer a quality; its taps are told apart by where their measures are kept. */
function rendererFor(sampleRate: number, quality: Quality): Renderer {
  const key = `${sampleRate} ${quality}`
  let renderer = renderers.get(key)
  if (!renderer) {
    // the finer ones are used now and then, and keep nothing for long
    renderer = new Renderer(context(sampleRate, quality), quality === 'highest' ? 0 : 320e6)
    renderers.set(key, renderer)
  }
  return renderer
}

const riffKey = (source: RiffSource, sampleRate: number): string => `${JSON.stringify(source)} ${sampleRate}`

function loadRiff(source: RiffSource, sampleRate: number): Promise<Float32Array> {
  const key = riffKey(source, sampleRate)
  let riff = riffs.get(key)
  if (!riff) {
    riff =
      source.kind === 'shipped'
        ? Promise.resolve(playRiff(source.id, sampleRate, source.played).map((x) => x * dbToGain(source.gainDb)))
        : fetchRiff(source.hash, sampleRate)
    riff.catch(() => riffs.delete(key))
    riffs.set(key, riff)
    if (riffs.size > 12) riffs.delete([...riffs.keys()][0])
  }
  return riff
}

async function fetchWav(hash: string, missing: string): Promise<Wav> {
  const answer = await fetch(`/api/assets/${hash}`)
  if (!answer.ok) throw new Error(missing)
  return readWav(new Uint8Array(await answer.arrayBuffer()))
}

/** The player's own file: both sides summed, at the engine's rate. */
async function fetchRiff(hash: string, sampleRate: number): Promise<Float32Array> {
  const { channels, sampleRate: rate } = await fetchWav(hash, 'The riff of this preset is not on this machine; choose another one.')
  const mono = channels.length === 1 ? channels[0] : channels[0].map((x, n) => 0.5 * (x + channels[1][n]))
  return resample(mono, rate, sampleRate)
}

const channelsOf = ({ left, right, stereo }: Sound): Float64Array[] => (stereo ? [left, right] : [left])

function measureTap(tap: Tap, sampleRate: number): StageMeasures {
  let found = stageCache.get(tap.sound)
  if (!found) stageCache.set(tap.sound, (found = stageMeasures(channelsOf(tap.sound), sampleRate)))
  return found
}

const renderJob = ({ preset, snapshot, riff, sampleRate }: Omit<MeasureJob, 'token'>, dry: Float32Array) => ({
  preset,
  snapshot,
  dryKey: riffKey(riff, sampleRate),
  dry,
  sampleRate,
})

/** The dry riff, once everything that the rendering needs of stored files is here. */
async function ready(job: Pick<MeasureJob, 'preset' | 'snapshot' | 'riff' | 'sampleRate'>): Promise<Float32Array> {
  const used = Object.values(resolveValues(job.preset, job.snapshot)).flatMap(({ params: { response } }) =>
    typeof response === 'string' ? [response] : [],
  )
  await loadFiles(used)
  return loadRiff(job.riff, job.sampleRate)
}

/** What a cabinet plays in a job's snapshot, or what passes it while it is off. */
function responseOf({ preset, snapshot, sampleRate, quality }: Omit<MeasureJob, 'token'>, stageId: string): ArrayLike<number> {
  const stage = resolveValues(preset, snapshot)[stageId]
  return stage.on ? context(sampleRate, quality).responses(String(stage.params.response)).left : [1]
}

/** Renders to the end; every tap on the way is handed on. */
function renderWhole(
  job: Omit<MeasureJob, 'token'>,
  dry: Float32Array,
  onTap: (tap: Tap) => void = () => undefined,
  passing?: readonly string[],
): Sound {
  const taps = rendererFor(job.sampleRate, job.quality).render({
    ...renderJob(job, dry),
    ...(passing ? { passing: new Set(passing) } : {}),
  })
  for (;;) {
    const { value, done } = taps.next()
    if (done) return value.sound
    onTap(value)
  }
}

/** As {@link renderWhole} with a softer riff; nothing of it is kept. */
const renderSofter = (job: Omit<MeasureJob, 'token'>, dry: Float32Array, db: number): Sound =>
  renderPreset({ ...renderJob(job, dry), dry: dry.map((x) => x * dbToGain(db)) }, context(job.sampleRate, job.quality))

/** Lets messages in, such as a cancel. */
const breathe = (): Promise<void> =>
  new Promise((done) => {
    const { port1, port2 } = new MessageChannel()
    port1.onmessage = () => {
      port1.close()
      done()
    }
    port2.postMessage(0)
  })

const worker = {
  /**
   * Measures one snapshot, telling each stage as it is ready.
   * @param onStage null leaves the stages out, for the sake of speed
   * @returns null when a newer token came meanwhile
   */
  async measure(job: MeasureJob, onStage: ((stage: string, measures: StageMeasures) => void) | null): Promise<OutputMeasures | null> {
    wanted = Math.max(wanted, job.token)
    const { sampleRate } = job
    const dry = await ready(job)
    const taps = rendererFor(sampleRate, job.quality).render(renderJob(job, dry))
    for (;;) {
      if (job.token < wanted) return null
      const { value: tap, done } = taps.next()
      if (done) {
        let output = outputCache.get(tap.sound)
        if (!output) {
          // a chain that is still mono is heard on both sides
          const sound = [tap.sound.left, tap.sound.right]
          outputCache.set(tap.sound, (output = outputMeasures(sound, sampleRate, measureTap(tap, sampleRate))))
        }
        return output
      }
      onStage?.(tap.stage, measureTap(tap, sampleRate))
      await breathe()
    }
  },

  /** A stored recording, measured as an output is; one channel counts as both sides. */
  async recording(hash: string): Promise<OutputMeasures> {
    const { channels, sampleRate } = await fetchWav(hash, 'This recording is not on this machine.')
    const sides = [channels[0], channels.at(1) ?? channels[0]].map((side) => Float64Array.from(side))
    return outputMeasures(sides, sampleRate)
  },

  cancel(token: number): void {
    wanted = Math.max(wanted, token)
  },

  riff(source: RiffSource, sampleRate: number): Promise<Float32Array> {
    return loadRiff(source, sampleRate)
  },

  responses(sampleRate: number): Record<string, Float64Array> {
    return Object.fromEntries(cabinetResponses.map(({ id }) => [id, synthesiseResponse(id, sampleRate)]))
  },

  async render(job: Omit<MeasureJob, 'token'>): Promise<{ left: Float64Array; right: Float64Array }> {
    const { left, right } = renderWhole(job, await ready(job))
    return { left, right }
  },

  /** Places layers in a mix and measures their sum; a shorter one is played again until the longest ends. */
  mix(layers: readonly { sides: Sides; placement: Placement }[], sampleRate: number): { sum: Sides; figures: MixFigures } {
    const frames = Math.max(...layers.map(({ sides }) => sides[0].length))
    return mixLayers(
      layers.map(({ sides, placement }) => placeLayer(sides, placement, frames, sampleRate)),
      sampleRate,
    )
  },

  /** One layer as it stands in a mix of so many frames. */
  stem(sides: Sides, placement: Placement, frames: number, sampleRate: number): Sides {
    return placeLayer(sides, placement, frames, sampleRate)
  },

  /** LUFS that each of these lanes brings into its sum, its strip included; null where it is silent. */
  async lanes(job: Omit<MeasureJob, 'token'>, lanes: readonly string[]): Promise<Record<string, number | null>> {
    const dry = await ready(job)
    const found: Record<string, number | null> = {}
    renderWhole(job, dry, (tap) => {
      if (lanes.includes(tap.stage)) found[tap.stage] = loudness([tap.sound.left, tap.sound.right], job.sampleRate).integratedLufs
    })
    return found
  },

  /** The level at which a stage leaves the loudness of the whole as it is without it. */
  async unity(job: Omit<MeasureJob, 'token'>, stageId: string): Promise<Unity> {
    const dry = await ready(job)
    const stage = findStage(job.preset, stageId)
    if (!stage) throw new Error('The stage is no longer there.')
    const lufs = (preset: Preset): number | null => {
      const { left, right } = renderWhole({ ...job, preset }, dry)
      return loudness([left, right], job.sampleRate).integratedLufs
    }
    const { snapshot } = job
    const at = (on: boolean, level?: number): number | null => {
      const switched = applyEdit(job.preset, { type: 'setOn', stage: stageId, snapshot, on })
      return lufs(
        level === undefined ? switched : applyEdit(switched, { type: 'setParam', stage: stageId, snapshot, param: 'level', value: level }),
      )
    }
    const level = Number(resolveStage(job.preset, stage, snapshot).params.level)
    return unityLevel(level, at(false), (value) => at(true, value), stage.model)
  },

  /**
   * How much each frequency counts for the loudness of the whole, before a cabinet has filtered it: the output's spectrum over the
   * cabinet's own response.
   */
  async weightsBefore(job: Omit<MeasureJob, 'token'>, stageId: string): Promise<Weights> {
    const dry = await ready(job)
    const { left, right } = renderWhole(job, dry)
    return weightsBehind([left, right], responseOf(job, stageId), job.sampleRate)
  },

  /**
   * The value of one parameter at which a snapshot meets a loudness, and the true peak there. What lies between the trim and the output
   * may compress, so it is rendered and metered until it is within 0.05 LU.
   */
  async level(
    job: Omit<MeasureJob, 'token'>,
    trim: { stage: string; param: string; start: number; min: number; max: number; slope: number },
    target: number,
  ): Promise<Solved & { truePeakDbtp: number | null }> {
    const dry = await ready(job)
    let peak: number | null = null
    const solved = solveLoudness(
      trim.start,
      trim,
      target,
      (value) => {
        const preset = applyEdit(job.preset, { type: 'setParam', stage: trim.stage, snapshot: job.snapshot, param: trim.param, value })
        const { left, right } = renderWhole({ ...job, preset }, dry)
        peak = stageMeasures([left, right], job.sampleRate).truePeakDbtp
        return loudness([left, right], job.sampleRate).integratedLufs
      },
      { slope: trim.slope },
    )
    return { ...solved, truePeakDbtp: peak }
  },

  /** What is heard when one snapshot gives way to each of the others. */
  async switching(job: Omit<MeasureJob, 'token'>, targets: readonly string[]): Promise<SwitchFigures[]> {
    for (const snapshot of targets) await ready({ ...job, snapshot })
    const dry = await ready(job)
    // a riff that is too short for it is played in a loop
    const enough = new Float32Array(Math.max(dry.length, Math.ceil(3.6 * job.sampleRate)))
    for (let at = 0; at < enough.length; at += dry.length) enough.set(dry.subarray(0, Math.min(dry.length, enough.length - at)), at)
    return switchFigures(job.preset, job.snapshot, targets, enough, job.sampleRate, context(job.sampleRate, job.quality))
  },

  /**
   * What is measured at one position of a source: a preset whose values are frozen there.
   * @param moved stages that the source moves
   * @param inputDb dB that the riff is played softer by, below 0
   */
  async point(job: Omit<MeasureJob, 'token'>, moved: readonly string[], inputDb: number): Promise<SweepPoint> {
    const dry = await ready(job)
    const { left, right } = inputDb === 0 ? renderWhole(job, dry, undefined, moved) : renderSofter(job, dry, inputDb)
    const { truePeakDbtp, centroidHz } = stageMeasures([left, right], job.sampleRate)
    return { lufs: loudness([left, right], job.sampleRate).integratedLufs, truePeakDbtp, centroidHz }
  },

  /** Loudness of the output with other values than the preset's. */
  async loudnessWith(job: Omit<MeasureJob, 'token'>): Promise<number | null> {
    const { left, right } = renderWhole(job, await ready(job))
    return loudness([left, right], job.sampleRate).integratedLufs
  },

  /** The level at which a stage by itself is as loud as what a hard strum of the guitar gives it, dB. */
  async ownUnity(stage: StageNode, riff: RiffSource, tempo: number, sampleRate: number): Promise<number | null> {
    const strum = (await loadRiff(riff, sampleRate)).slice(0, sampleRate * 2.5)
    return ownUnity(stage, Float64Array.from(strum), context(sampleRate, 'live'), sampleRate, tempo)
  },

  async chart(kind: ChartData['kind'], stage: StageNode, tempo: number, sampleRate: number): Promise<ChartData> {
    const { response } = effectiveParams(stage, stage.params, tempo)
    if (typeof response === 'string') await loadFiles([response])
    const build = context(sampleRate, 'live')
    if (kind === 'response') {
      const hz = Array.from({ length: 120 }, (_, i) => 20 * Math.pow(1000, i / 119))
      const { re, im } = stageResponse(stage, hz, build, sampleRate, tempo, 8192)
      return { kind, hz, db: re.map((r, i) => 20 * Math.log10(Math.hypot(r, im[i]) + 1e-9)) }
    }
    if (kind === 'feel') return { kind, ...stageFeel(stage, build, sampleRate, tempo) }
    if (kind === 'gain') return { kind, ...stageGain(stage, build, sampleRate, tempo) }
    const seconds = stage.model.startsWith('reverb') ? Math.min(8, Number(stage.params.decay) * 1.1 + 0.3) : 3
    return { kind, ...stageTail(stage, seconds, seconds * 4, build, sampleRate, tempo) }
  },
}

export type RenderWorker = typeof worker
expose(worker)
