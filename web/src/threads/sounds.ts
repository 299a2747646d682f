import { responseLibrary } from '@fulgor/core/cabinet'
import { asIfOn, type Voice } from '@fulgor/core/guitar'
import { looped, type Part } from '@fulgor/core/recording'
import { readWav, type Wav } from '@fulgor/core/formats'
import {
  loudnessSteps,
  measuredOutput,
  scaledBands,
  scaledOutput,
  scaledStage,
  stageMeasures,
  thirdOctavesOf,
  type Band,
  type MeasuredOutput,
  type OutputLevels,
  type StageMeasures,
} from '@fulgor/core/measure'
import { resolveValues, type Preset } from '@fulgor/core/preset'
import { Renderer, renderPreset, type SharedTaps, type Sound, type Tap } from '@fulgor/core/render'
import { soundOf, type Played } from '@fulgor/core/reading'
import { dbToGain, resample, type Quality } from '@fulgor/core/signal'
import type { Task } from '../background/tasks'
import { exchange, onAsked, onWithdrawn } from './exchange'
import { fileSource, loadFiles } from './responseFiles'

/** Where a dry signal comes from. */
export type RiffSource = ({ readonly kind: 'shipped' } & Played) | OwnSource

/** A file of the player's own. `from`, `to`: what it was recorded on and what it is to sound as. */
interface OwnSource {
  readonly kind: 'asset'
  readonly hash: string
  readonly part?: Part
  readonly from?: Voice
  readonly to?: Voice
}

/** What is rendered. */
export interface Rendering {
  readonly preset: Preset
  readonly snapshot: string
  readonly riff: RiffSource
  readonly sampleRate: number
  readonly quality: Quality
}

const MOST_RIFFS = 12
/** Bytes of taps that a renderer keeps, beside what the other thread's keeps and this one holds of it. */
const KEPT_BYTES = 240e6

type Library = ReturnType<typeof responseLibrary>
type Response = ReturnType<Library>

const libraries = new Map<number, Library>()
/** Responses that were made for the whole crew, by rate and id. */
const prepared = new Map<string, Response>()
const MOST_PREPARED = 24
const riffs = new Map<string, Promise<Float32Array>>()
const stageCache = new WeakMap<Sound, StageMeasures>()
const outputCache = new WeakMap<Sound, MeasuredOutput>()
const bandsCache = new WeakMap<Sound, readonly Band[]>()
const renderers = new Map<string, Renderer>()

export function context(sampleRate: number, quality: Quality) {
  let responses = libraries.get(sampleRate)
  if (!responses) {
    const library = responseLibrary(sampleRate, fileSource)
    responses = (id) => prepared.get(`${sampleRate} ${id}`) ?? library(id)
    libraries.set(sampleRate, responses)
  }
  return { quality, responses }
}

/** Has responses made, by whichever thread of the crew comes first. */
async function prepareResponses(ids: readonly string[], sampleRate: number): Promise<void> {
  const { responses } = context(sampleRate, 'live')
  for (const id of ids) {
    const key = `${sampleRate} ${id}`
    if (prepared.has(key)) continue
    const made = await exchange.once(`response ${key}`, () => {
      const { left, right } = responses(id)
      return { left: exchange.seen(left), right: right && exchange.seen(right) }
    })
    prepared.set(key, made)
    if (prepared.size > MOST_PREPARED) prepared.delete([...prepared.keys()][0])
  }
}

/** Sounds that the other threads of the crew have made, and those that they may take over. */
const shared: SharedTaps = {
  find: (key) => exchange.find(key) as Sound | undefined,
  made: (key, { left, right, stereo }) => exchange.layRooms(key, { left, right, stereo }),
  gone: (key) => exchange.withdraw(key),
  passing: ({ left, right }) => exchange.retire(left === right ? [left] : [left, right]),
  room: (frames) => exchange.floats(frames),
}

onWithdrawn((key, laid) => {
  for (const renderer of renderers.values()) renderer.forget(key, laid)
})

/** One renderer a quality; its taps are told apart by where their measures are kept. */
export function rendererFor(sampleRate: number, quality: Quality): Renderer {
  const key = `${sampleRate} ${quality}`
  let renderer = renderers.get(key)
  if (!renderer) {
    // the finer ones are used now and then, and keep nothing for long
    renderer = new Renderer(context(sampleRate, quality), quality === 'highest' ? 0 : KEPT_BYTES, shared)
    renderers.set(key, renderer)
  }
  return renderer
}

/** Names a dry signal. */
export const riffKey = (source: RiffSource, sampleRate: number): string => `${JSON.stringify(source)} ${sampleRate}`

export function loadRiff(source: RiffSource, sampleRate: number): Promise<Float32Array> {
  const key = riffKey(source, sampleRate)
  let riff = riffs.get(key)
  if (!riff) {
    riff = exchange
      .once(`riff ${key}`, async () => ({
        samples: exchange.seen(source.kind === 'shipped' ? soundOf(source, sampleRate) : await fetchRiff(source, sampleRate)),
      }))
      .then(({ samples }) => samples)
    riff.catch(() => riffs.delete(key))
    riffs.set(key, riff)
    if (riffs.size > MOST_RIFFS) riffs.delete([...riffs.keys()][0])
  }
  return riff
}

/** A stored recording. @throws Error with the sentence `missing` where it is not on this machine */
export async function fetchWav(hash: string, missing: string): Promise<Wav> {
  const answer = await fetch(`/api/assets/${hash}`)
  if (answer.status === 404) throw new Error(missing)
  if (!answer.ok) throw new Error('The server did not give a recording; it is asked again.')
  return readWav(new Uint8Array(await answer.arrayBuffer()))
}

/** The player's own file: both sides summed, at the engine's rate. */
async function fetchRiff({ hash, part, from, to }: OwnSource, sampleRate: number): Promise<Float32Array> {
  const { channels, sampleRate: rate } = await fetchWav(hash, 'The riff of this preset is not on this machine; choose another one.')
  const mono = channels.length === 1 ? channels[0] : channels[0].map((x, n) => 0.5 * (x + channels[1][n]))
  const dry = looped(resample(mono, rate, sampleRate), part ?? null, sampleRate)
  return from && to ? asIfOn(dry, from, to, sampleRate) : dry
}

/** What of a stage is measured; found once for each sound, by its name also for the other threads. */
export function measureTap({ sound, key }: Pick<Tap, 'sound'> & Partial<Pick<Tap, 'key'>>, sampleRate: number): StageMeasures {
  let found = stageCache.get(sound)
  if (!found) {
    const { scaled } = sound
    if (scaled) found = scaledStage(measureTap({ sound: scaled.of }, sampleRate), scaled.gain)
    else {
      const name = key === undefined ? null : `measures ${key}`
      found = name === null ? undefined : (exchange.find(name) as StageMeasures | undefined)
      if (!found) {
        found = stageMeasures(sound.stereo ? [sound.left, sound.right] : [sound.left], sampleRate)
        if (name !== null) exchange.lay(name, { ...found })
      }
    }
    stageCache.set(sound, found)
  }
  return found
}

const stepsName = (key: string): string => `steps ${key}`

/** Levels of an output. A chain that is still mono is heard on both sides. */
export function measureOutput(sound: Sound, sampleRate: number): OutputLevels {
  const { of, gain } = sound.scaled ?? { of: sound, gain: 1 }
  let found = outputCache.get(of)
  if (!found)
    outputCache.set(of, (found = measuredOutput([of.left, of.right], sampleRate, { stage: measureTap({ sound: of }, sampleRate) })))
  return scaledOutput(found, gain)
}

/** Its third octaves. */
export function measureBands(sound: Sound, sampleRate: number): readonly Band[] {
  const { of, gain } = sound.scaled ?? { of: sound, gain: 1 }
  let found = bandsCache.get(of)
  if (!found) bandsCache.set(of, (found = thirdOctavesOf([of.left, of.right], sampleRate)))
  return scaledBands(found, gain)
}

/** Both, of a sound whose taps are there, together with another thread where one has time: it takes the levels, which take as long as the bands. */
export async function measureWithHelp(
  task: Task,
  sound: Sound,
  taps: readonly Tap[],
  sampleRate: number,
): Promise<{ levels: OutputLevels; bands: readonly Band[] }> {
  const { of } = sound.scaled ?? { of: sound }
  const tap = outputCache.has(of) ? undefined : taps.findLast((t) => t.sound === of)
  if (tap) exchange.ask(`steps ${sampleRate}`, tap.key)
  const bands = measureBands(sound, sampleRate)
  if (tap) {
    await task.breathe()
    const steps = exchange.find(stepsName(tap.key))?.steps as Float64Array | undefined
    const stage = measureTap(tap, sampleRate)
    outputCache.set(of, measuredOutput([of.left, of.right], sampleRate, steps ? { stage, steps } : { stage }))
  }
  return { levels: measureOutput(sound, sampleRate), bands }
}

/** Has another thread measure a tap, if it has time: what it finds is there for {@link measureTap}. */
export const askForTap = ({ sound, key }: Tap, sampleRate: number): void => {
  if (!sound.scaled && !stageCache.has(sound)) exchange.ask(`stage ${sampleRate}`, key)
}

onAsked((what, key) => {
  const sound = exchange.find(key) as Sound | undefined
  if (!sound) return
  const [kind, rate] = what.split(' ')
  if (kind === 'stage') measureTap({ sound, key }, Number(rate))
  else exchange.lay(stepsName(key), { steps: loudnessSteps([sound.left, sound.right], Number(rate)) })
})

/** The dry riff, once everything that the rendering needs of stored files is here. */
export async function ready({ preset, snapshot, riff, sampleRate }: Omit<Rendering, 'quality'>): Promise<Float32Array> {
  const used = Object.values(resolveValues(preset, snapshot)).flatMap(({ params: { response } }) =>
    typeof response === 'string' ? [response] : [],
  )
  await loadFiles(used)
  await prepareResponses(used, sampleRate)
  return loadRiff(riff, sampleRate)
}

const jobOf = ({ preset, snapshot, riff, sampleRate }: Rendering, dry: Float32Array) => ({
  preset,
  snapshot,
  dryKey: riffKey(riff, sampleRate),
  dry,
  sampleRate,
})

/**
 * Renders to the end; every tap on the way is handed on, and the task may be given up after each.
 * @param passing stages before which nothing is kept: what comes by once only
 */
export async function renderWhole(
  task: Task,
  job: Rendering,
  dry: Float32Array,
  onTap: (tap: Tap) => void = () => undefined,
  passing?: readonly string[],
): Promise<Sound> {
  const taps = rendererFor(job.sampleRate, job.quality).render({ ...jobOf(job, dry), ...(passing ? { passing: new Set(passing) } : {}) })
  for (;;) {
    const { value, done } = taps.next()
    if (done) return value.sound
    onTap(value)
    await task.breathe()
  }
}

/** As {@link renderWhole} with a softer riff; nothing of it is kept. */
export const renderSofter = (job: Rendering, dry: Float32Array, db: number): Sound =>
  renderPreset({ ...jobOf(job, dry), dry: dry.map((x) => x * dbToGain(db)) }, context(job.sampleRate, job.quality))
