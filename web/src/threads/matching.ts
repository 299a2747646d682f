import { micResponse, type FileSource } from '@fulgor/core/cabinet'
import { searchSettings, type Aimed, type Look, type Setting, type Source, type Where } from '@fulgor/core/closing'
import {
  BANDS,
  bandsAt,
  bandsOfSound,
  bentDb,
  candidateOf,
  crestOf,
  densityOf,
  eqFor,
  gridOf,
  longSpectrum,
  portraitOf,
  powerAt,
  Ranking,
  viewOf,
  type Blend,
  type Candidate,
  type EqLimits,
  type FoundEq,
  type Portrait,
  type Taste,
  type Trusted,
} from '@fulgor/core/match'
import { applyEdit, frozen, judgedDry, resolveValues, type Edit, type Preset } from '@fulgor/core/preset'
import type { Part, View } from '@fulgor/core/recording'
import type { Task } from '../background/tasks'
import { SAMPLE_RATE } from './rate'
import { stretchOf } from './references'
import { fetchWav, ready, rendererFor, renderWhole, riffKey, type Rendering } from './sounds'
import { readSound } from '@fulgor/core/formats'

/** A recording as it is looked at. */
export interface Aim {
  readonly file: string
  readonly parts: readonly Part[]
  readonly view: View
  readonly trusted: Trusted
  readonly tastes: readonly Taste[]
}

/** A sound before its cabinet. */
export interface Bare {
  /** Power at each point of the grid. */
  readonly power: Float32Array
  /** Third octaves, dB. */
  readonly bands: readonly (number | null)[]
}

/** A source with the distance of it alone, µs and dB as ranking tells them. */
export interface Judged {
  readonly source: Source
  readonly db: number
}

/** What is found of pairs. */
export interface Pairs {
  readonly best: readonly Blend[]
  readonly onsetUs: readonly number[]
  readonly gainDb: readonly number[]
  readonly blends: number
  /** Sources whose file was gone; their places hold silence. */
  readonly gone: readonly string[]
}

/** A candidate, and where its first sound stands in its file, µs. */
interface Heard {
  readonly candidate: Candidate
  readonly onsetUs: number
}

/** s of a riff that settings are tried on. */
const TRIED_S = 4
/** Samples that a simulated response is tried with. */
const TAPS = 2_048
const MOST_CANDIDATES = 3_000

const wantedBands = new Map<string, Promise<Float32Array>>()
const candidates = new Map<string, Heard | null>()

/** dB of the recording in each band of the grid, bent by taste. */
async function wantedOf({ file, parts, view, trusted, tastes }: Aim): Promise<Float32Array> {
  const key = JSON.stringify([file, parts, view, trusted])
  let found = wantedBands.get(key)
  if (!found) {
    found = stretchOf(file, parts).then(({ sides, sampleRate }) =>
      bandsAt(gridOf(trusted), longSpectrum([viewOf(sides, view)], sampleRate)),
    )
    found.catch(() => wantedBands.delete(key))
    wantedBands.set(key, found)
    if (wantedBands.size > 6) wantedBands.delete([...wantedBands.keys()][0])
  }
  const grid = gridOf(trusted)
  return (await found).map((db, b) => db + bentDb(tastes, grid.points[Math.floor(((b + 0.5) * grid.points.length) / BANDS)]))
}

/** A source's response on the grid; null where its file is not there. */
async function heard(source: Source, trusted: Trusted): Promise<Heard | null> {
  const key = JSON.stringify([source.kind === 'file' ? source.file : source, trusted])
  const known = candidates.get(key)
  if (known !== undefined) return known
  const made = source.kind === 'file' ? await ofFile(source.file, trusted) : ofMic(source, trusted)
  candidates.set(key, made)
  if (candidates.size > MOST_CANDIDATES) candidates.delete([...candidates.keys()][0])
  return made
}

function heardAs(taps: ArrayLike<number>, sampleRate: number, trusted: Trusted): Heard {
  const candidate = candidateOf(gridOf(trusted), taps, sampleRate)
  return { candidate, onsetUs: (1e6 * candidate.onset) / sampleRate }
}

const ofMic = ({ cab, place }: Extract<Source, { kind: 'mic' }>, trusted: Trusted): Heard =>
  heardAs(micResponse(cab, place, SAMPLE_RATE, TAPS), SAMPLE_RATE, trusted)

async function ofFile(file: string, trusted: Trusted): Promise<Heard | null> {
  const answer = await fetch(`/api/responses/${file}`)
  if (answer.status === 404) return null
  if (!answer.ok) throw new Error('The server did not give an impulse response; it is asked again.')
  const { channels, sampleRate }: NonNullable<ReturnType<FileSource>> = readSound(new Uint8Array(await answer.arrayBuffer()))
  const [left, right = left] = channels
  return heardAs(left === right ? left : left.map((x, n) => 0.5 * (x + right[n])), sampleRate, trusted)
}

async function rankingOf(aim: Aim, bare: Bare, sources: readonly Source[], task: Task) {
  const grid = gridOf(aim.trusted)
  const none = new Float32Array(grid.points.length)
  const silent: Heard = { candidate: { re: none, im: none, onset: 0 }, onsetUs: 0 }
  const made: Heard[] = []
  const gone: string[] = []
  for (const [k, source] of sources.entries()) {
    const found = await heard(source, aim.trusted)
    if (!found && source.kind === 'file') gone.push(source.name)
    made.push(found ?? silent)
    if (k % 16 === 15) await task.breathe()
  }
  const ranking = new Ranking(
    { grid, power: bare.power, wanted: await wantedOf(aim) },
    made.map((m) => m.candidate),
  )
  return { ranking, made, gone }
}

/** The preset without modulation, delay and reverb, in its one snapshot: what is near there is near with them. */
const plain = (preset: Preset, snapshot: string): Preset =>
  frozen(preset, snapshot, judgedDry(preset.chain, resolveValues(preset, snapshot)))

/** The loudest stretch of a riff. */
function excerpt(dry: Float32Array): Float32Array {
  const frames = Math.min(dry.length, TRIED_S * SAMPLE_RATE)
  const step = SAMPLE_RATE >> 1
  let [best, most] = [0, -1]
  for (let at = 0; at + frames <= dry.length; at += step) {
    let power = 0
    for (let n = at; n < at + frames; n += 16) power += dry[n] * dry[n]
    if (power > most) [best, most] = [at, power]
  }
  return dry.slice(best, best + frames)
}

export const matchingTasks = {
  /** What a snapshot sounds like. */
  async portrait(task: Task, job: Rendering, view: View): Promise<Portrait | null> {
    const { left, right } = await renderWhole(task, job, await ready(job))
    return portraitOf([left, right], job.sampleRate, view)
  },

  /** What marked stretches of a recording sound like. */
  async recordingPortrait(_task: Task, file: string, parts: readonly Part[], view: View): Promise<Portrait | null> {
    const { sides, sampleRate } = await stretchOf(file, parts)
    return portraitOf(sides, sampleRate, view)
  },

  /** What a take of a device sounds like. */
  async takePortrait(_task: Task, hash: string, view: View): Promise<Portrait | null> {
    const { channels, sampleRate } = await fetchWav(hash, 'This take is not on this machine.')
    return portraitOf(channels, sampleRate, view)
  },

  /** The sound before a cabinet: that stage passed by. */
  async bare(task: Task, job: Rendering, stage: string, { view, trusted }: Aim): Promise<Bare> {
    const preset = applyEdit(job.preset, { type: 'setOn', stage, snapshot: job.snapshot, on: false })
    const { left, right } = await renderWhole(task, { ...job, preset: plain(preset, job.snapshot) }, await ready(job))
    const x = viewOf([left, right], view === 'side' ? 'mid' : view)
    return { power: powerAt(gridOf(trusted), longSpectrum([x], job.sampleRate)), bands: bandsOfSound([x], job.sampleRate).db }
  },

  /** Sources alone, by distance. */
  async alone(task: Task, aim: Aim, bare: Bare, sources: readonly Source[]): Promise<Judged[]> {
    const { ranking, gone } = await rankingOf(aim, bare, sources, task)
    return ranking
      .alone()
      .map(({ first, db }) => ({ source: sources[first], db }))
      .filter(({ source }) => source.kind === 'mic' || !gone.includes(source.name))
  },

  /**
   * Pairs of sources in all levels, lags and polarities.
   * @param share which of so many shares of the work this is
   */
  async pairs(
    task: Task,
    aim: Aim,
    bare: Bare,
    sources: readonly Source[],
    share: readonly [k: number, of: number],
    most: number,
  ): Promise<Pairs> {
    const { ranking, made, gone } = await rankingOf(aim, bare, sources, task)
    const of = [...sources.keys()].filter((k) => {
      const source = sources[k]
      return source.kind === 'mic' || !gone.includes(source.name)
    })
    const best: Blend[] = []
    let blends = 0
    for (let row = share[0]; row < of.length; row += share[1]) {
      const found = ranking.pairs(of, [row], most)
      best.push(...found.best)
      blends += found.blends
      task.tell(blends)
      await task.breathe()
    }
    best.sort((a, b) => a.db - b.db)
    return {
      best: best.slice(0, most),
      onsetUs: made.map((m) => m.onsetUs),
      gainDb: Array.from(ranking.gainDb),
      blends,
      gone,
    }
  },

  /** Bells that bring a snapshot nearest to a recording. */
  async equaliser(task: Task, job: Rendering, aim: Aim, limits: EqLimits): Promise<FoundEq> {
    const preset = plain(job.preset, job.snapshot)
    const { left, right } = await renderWhole(task, { ...job, preset }, await ready(job))
    const grid = gridOf(aim.trusted)
    const now = bandsAt(grid, longSpectrum([viewOf([left, right], aim.view === 'side' ? 'mid' : aim.view)], job.sampleRate))
    const wanted = await wantedOf(aim)
    const hz = Array.from(wanted, (_, b) => grid.points[Math.floor(((b + 0.5) * grid.points.length) / BANDS)])
    return eqFor(
      hz,
      Array.from(now, (db, b) => db - wanted[b]),
      limits,
      job.sampleRate,
    )
  },

  /** Models in a stage's place with their knobs, nearest first; tells how many settings were tried. */
  async settings(
    task: Task,
    job: Rendering,
    aim: Aim,
    where: Where,
    models: readonly string[],
    aimed: Aimed,
  ): Promise<{ best: Setting[]; tried: number }> {
    const grid = gridOf(aim.trusted)
    const wanted = await wantedOf(aim)
    const whole = await ready(job)
    const dry = { key: `${riffKey(job.riff, job.sampleRate)} loudest ${TRIED_S} s`, samples: excerpt(whole) }
    const view = aim.view === 'side' ? 'mid' : aim.view
    const renderer = rendererFor(job.sampleRate, job.quality)
    const look = (edit: Edit): Look => {
      const preset = plain(applyEdit(job.preset, edit), job.snapshot)
      const taps = renderer.render({ preset, snapshot: job.snapshot, dryKey: dry.key, dry: dry.samples, sampleRate: job.sampleRate })
      let next = taps.next()
      while (!next.done) next = taps.next()
      const { left, right } = next.value.sound
      const x = viewOf([left, right], view)
      const bands = bandsAt(grid, longSpectrum([x], job.sampleRate))
      let [sum, square] = [0, 0]
      bands.forEach((db, b) => {
        sum += db - wanted[b]
        square += (db - wanted[b]) ** 2
      })
      const mean = sum / BANDS
      return { db: Math.sqrt(Math.max(0, square / BANDS - mean * mean)), crestDb: crestOf(x), densityDb: densityOf(x, job.sampleRate) }
    }
    const search = searchSettings({ preset: job.preset, snapshot: job.snapshot, where, models, aimed }, look)
    let tried = 0
    for (;;) {
      const { value, done } = search.next()
      if (done) return { best: value, tried }
      tried++
      task.tell(tried)
      await task.breathe()
    }
  },
}
