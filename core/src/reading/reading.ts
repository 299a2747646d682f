import { clips, fromTravel, modelOf, toTravel } from '@fulgor/core/catalogue'
import { averageSpectrum, loudness, monoLoss, monoSum, outputMeasures, stageMeasures, thirdOctavesOf } from '@fulgor/core/measure'
import type { Band, OutputMeasures, Signal, StageMeasures } from '@fulgor/core/measure'
import {
  clippingStages,
  findStage,
  frozen,
  judgedDry,
  resolveValues,
  heardStages,
  splitsOf,
  withStage,
  type ChainNode,
  type Preset,
  type ResolvedStage,
  type StageNode,
} from '@fulgor/core/preset'
import { feelFrom, feelTone, levelsFrom, type Sound, type StageFeel, type Tap } from '@fulgor/core/render'
import { changeDb, type Character } from './change'
import { proposeGate, type GateProposal } from './gateCost'
import { gainOf, type GainFigures } from './gain'
import { gapDepthDb } from './gaps'
import { gainParams } from './goal'
import { laneAgainst, type LanePair } from './lanes'
import { harshNote, type HarshNote } from './neck'

/** What is read of one stage while the riff plays and while the guitar rests. */
export interface StageReading extends StageMeasures {
  /** RMS behind the stage with the guitar at rest, dBFS; null for silence. */
  readonly noiseDbfs: number | null
  /** Peak of the noise that reaches it, dBFS. */
  readonly noiseInPeakDbfs: number | null
  /** Third octaves of the riff before it; of stages that clip. */
  readonly before?: readonly Band[]
  /** How often and how deep it turns down; of gates and compressors. */
  readonly gain?: GainFigures
  /** How it would be set by the noise that it hears, and what that costs; of gates. */
  readonly gate?: GateProposal
}

/** Everything that sound rules go by, of one snapshot. */
export interface Reading {
  readonly stages: Readonly<Record<string, StageReading>>
  /** The dry guitar: the riff, and at rest. */
  readonly guitar: StageMeasures & {
    readonly noiseDbfs: number | null
    readonly noisePeakDbfs: number | null
    readonly humShare: number
    readonly gate: GateProposal | null
  }
  readonly output: OutputMeasures
  readonly noiseDbfs: number | null
  /** The same with every gate open, as it lies under the notes. */
  readonly openNoiseDbfs: number | null
  /** LU that a mono sum is softer; null for silence. */
  readonly monoLossLu: number | null
  /** Distortion of a 220 Hz tone by its peak at the input, without modulation, delay and reverb. */
  readonly feel: Pick<StageFeel, 'inputDb' | 'thd' | 'edges'>
  /** LU between the riff played soft and hard, at the guitar and at the output; null where one of them is silent. */
  readonly handLu: number | null
  readonly dynamicsLu: number | null
  /** What drives and knobs of gain still change. */
  readonly turned: readonly Turned[]
  /** How far the riff's gaps lie under its notes, dB, without and with reverbs; null where none is on, and for silence. */
  readonly dryGapDb: number | null
  readonly gapDb: number | null
  /** dB that a mono sum leaves of each third octave that is heard: −3 of unrelated sides. */
  readonly monoBands: readonly { readonly hz: number; readonly db: number }[]
  readonly lanes: readonly LanePair[]
  readonly neck: HarshNote | null
}

/** What is heard when a stage that clips is switched off, or one of its knobs turned down. */
export interface Turned {
  readonly stage: string
  /** The knob; null: the stage is off. */
  readonly param: string | null
  /** What it was turned down to. */
  readonly value: number
  /** See {@link changeDb}. */
  readonly changeDb: number
}

export interface ReadingJob {
  readonly preset: Preset
  readonly snapshot: string
  /** The riff as it is heard, and its start played soft and hard; the guitar at rest. All mono. */
  readonly riff: Dry
  readonly soft: Dry
  readonly hard: Dry
  readonly rest: Dry
  /** As {@link neckNotes} plays them. */
  readonly notes: Dry
  readonly sampleRate: number
}

/** A dry signal with its name in the renderer's cache. */
export interface Dry {
  readonly key: string
  readonly samples: Float32Array
}

/** Renders stage by stage, as {@link Renderer} does. */
export type RenderTaps = (preset: Preset, snapshot: string, dry: Dry) => Generator<Tap, Tap>

const SILENCE = 1e-7
const dbfs = (linear: number): number | null => (linear > SILENCE ? 20 * Math.log10(linear) : null)
const sides = ({ left, right, stereo }: Sound): Signal => (stereo ? [left, right] : [left])
const rms = (signal: Signal): number =>
  Math.sqrt(signal.reduce((sum, side) => sum + side.reduce((s, x) => s + x * x, 0) / side.length, 0) / signal.length)
const peak = (signal: Signal): number => Math.max(...signal.map((side) => side.reduce((most, x) => Math.max(most, Math.abs(x)), 0)))

/** s of the resting guitar before it counts: gates have closed by then, supplies have settled. */
const SETTLED_S = 1
/** dBFS of the softest tone that {@link Reading.feel} begins with. */
const FEEL_FROM = -48

/** By id, what stands before each stage of the chain: the stage, sum or strip that it hears; '' is the guitar. */
export function inputsOf(chain: readonly ChainNode[], first = ''): Record<string, string> {
  const found: Record<string, string> = {}
  let before = first
  for (const node of chain) {
    found[node.id] = before
    if (node.kind === 'parallel')
      for (const lane of node.lanes) {
        Object.assign(found, inputsOf(lane.nodes, before))
        found[lane.id] = lane.nodes.at(-1)?.id ?? before
      }
    before = node.id
  }
  return found
}

/**
 * Reads one snapshot as an engineer would listen to it: the riff stage by stage, the guitar at rest, its distortion against picking,
 * what is left of the hand's dynamics, and what a mono house leaves. Yields between parts, so that it may be given up.
 */
export function* readSnapshot(job: ReadingJob, render: RenderTaps): Generator<undefined, Reading> {
  const { preset, snapshot, sampleRate } = job
  const values = resolveValues(preset, snapshot)
  const inputs = inputsOf(preset.chain)
  const settled = Math.round(SETTLED_S * sampleRate)

  const noise: Record<string, { rms: number | null; peak: number | null }> = {}
  const told = (id: string, signal: Signal) => {
    const late = signal.map((side) => side.subarray(settled))
    return (noise[id] = { rms: dbfs(rms(late)), peak: dbfs(peak(late)) })
  }
  const rest = job.rest.samples
  const guitarNoise = told('', [rest])
  const restTaps = render(preset, snapshot, job.rest)
  let resting = restTaps.next()
  for (; !resting.done; resting = restTaps.next()) {
    told(resting.value.stage, sides(resting.value.sound))
    yield
  }
  const noiseOut = told(resting.value.stage, sides(resting.value.sound))

  const dry = job.riff.samples
  const sounds = new Map<string, Sound>([['', { left: dry, right: dry, stereo: false }]])
  const stages: Record<string, StageReading> = {}
  const proposed = (place: string, heard: Float32Array) => {
    const { peak: noisePeak } = noise[place]
    return noisePeak === null ? null : proposeGate(heard, noisePeak, sampleRate)
  }
  const gateAt = (family: string, id: string, heard: Float32Array): Pick<StageReading, 'gate'> => {
    if (family !== 'gate') return {}
    const found = values[id].params.key === 'dry' ? proposed('', dry) : proposed(inputs[id], heard)
    return found ? { gate: found } : {}
  }
  const riffTaps = render(preset, snapshot, job.riff)
  let next = riffTaps.next()
  for (; !next.done; next = riffTaps.next()) {
    const { stage: id, sound } = next.value
    sounds.set(id, sound)
    const model = findStage(preset, id)?.model
    const input = sounds.get(inputs[id]) ?? sound
    const entry = model === undefined ? null : modelOf(model)
    const family = entry?.family ?? 'utility'
    const on = id in values ? values[id].on : true
    stages[id] = {
      ...stageMeasures(sides(sound), sampleRate),
      noiseDbfs: noise[id]?.rms ?? null,
      noiseInPeakDbfs: noise[inputs[id]]?.peak ?? null,
      ...(on && entry && clips(entry) ? { before: thirdOctavesOf(sides(input), sampleRate) } : {}),
      ...(on && (family === 'gate' || family === 'compressor') ? { gain: gainOf(input.left, sound.left, sampleRate) } : {}),
      ...gateAt(family, id, input.left),
    }
    yield
  }
  const last = next.value.sound
  const lanes = splitsOf(preset.chain).flatMap((split) => {
    const open = split.lanes.filter((lane) => values[lane.id].on)
    return open.slice(1).flatMap((lane): LanePair[] => {
      const [a, b] = [sounds.get(open[0].id), sounds.get(lane.id)]
      const pair = a && b ? laneAgainst([open[0].id, lane.id], middle(a), middle(b), sampleRate) : null
      return pair ? [pair] : []
    })
  })
  sounds.clear()
  yield

  const plain = frozen(preset, snapshot, judgedDry(preset.chain, values))
  function* whole(of: Preset, from: Dry, until: string | null = null): Generator<undefined, Sound> {
    const taps = render(of, snapshot, from)
    for (let next = taps.next(); ; next = taps.next()) {
      if (next.done || next.value.stage === until) return next.value.sound
      yield
    }
  }
  const levels = levelsFrom(FEEL_FROM)
  const tone = yield* whole(plain, { key: 'tone 220', samples: feelTone(sampleRate, levels) })
  const feel = feelFrom(tone.left, sampleRate, levels)
  yield
  const lufs = (signal: Signal) => loudness(signal, sampleRate).integratedLufs
  const hard = lufs(sides(yield* whole(plain, job.hard)))
  const soft = lufs(sides(yield* whole(plain, job.soft)))
  yield
  const character = (sound: Sound): Character => ({
    bands: thirdOctavesOf(sides(sound), sampleRate),
    crestDb: stageMeasures(sides(sound), sampleRate).crestDb,
    lufs: lufs(sides(sound)),
  })
  const gates = heardStages(preset, snapshot).filter((s) => modelOf(s.model).family === 'gate')
  let openNoiseDbfs = noiseOut.rms
  if (gates.length > 0) {
    const open = yield* whole(frozen(preset, snapshot, silenced(values, gates)), job.rest)
    openNoiseDbfs = dbfs(rms(sides(open).map((side) => side.subarray(settled))))
  }
  yield
  const turned: Turned[] = []
  const short = { key: `${job.hard.key} short`, samples: job.hard.samples.slice(0, Math.round(TURNED_S * sampleRate)) }
  const as = new Map<string | null, Character>()
  for (const { stage, param, value, values: other } of otherwise(preset, snapshot, judgedDry(preset.chain, values))) {
    // a drive is heard at the end, a knob where it stands
    const at = param === null ? null : stage
    const before = as.get(at) ?? character(yield* whole(plain, short, at))
    as.set(at, before)
    yield
    const change = changeDb(before, character(yield* whole(frozen(preset, snapshot, other), short, at)))
    if (change !== null) turned.push({ stage, param, value, changeDb: change })
    yield
  }
  const neck = harshNote(job.notes.samples, middle(yield* whole(plain, job.notes)), sampleRate)
  yield
  const mono = middle(last)
  const reverbs = heardStages(preset, snapshot).filter((s) => modelOf(s.model).family === 'reverb')
  const start = { key: `${job.riff.key} start`, samples: job.riff.samples.slice(0, job.hard.samples.length) }
  const gapOf = (sound: Float32Array) => gapDepthDb(sound.subarray(0, start.samples.length), sampleRate)
  const gapDb = reverbs.length === 0 ? null : gapOf(mono)
  const dryGapDb = reverbs.length === 0 ? null : gapOf(middle(yield* whole(frozen(preset, snapshot, silenced(values, reverbs)), start)))
  const [softHand, hardHand] = [job.soft, job.hard].map(({ samples }) => lufs([samples]))
  yield
  const output = outputMeasures([last.left, last.right], sampleRate)
  yield
  const monoLossLu = last.stereo ? monoLoss(output.integratedLufs, mono, sampleRate) : 0
  yield
  const guitar = stageMeasures([dry], sampleRate)
  yield
  return {
    stages,
    guitar: {
      ...guitar,
      noiseDbfs: guitarNoise.rms,
      noisePeakDbfs: guitarNoise.peak,
      humShare: humShare(rest.subarray(settled), sampleRate),
      gate: proposed('', dry),
    },
    output,
    noiseDbfs: noiseOut.rms,
    openNoiseDbfs,
    monoLossLu,
    feel: { inputDb: feel.inputDb, thd: feel.thd, edges: feel.edges },
    handLu: softHand === null || hardHand === null ? null : hardHand - softHand,
    dynamicsLu: soft === null || hard === null ? null : hard - soft,
    turned,
    dryGapDb,
    gapDb,
    monoBands: last.stereo ? monoBandsOf(output.thirdOctave, mono, sampleRate) : [],
    lanes,
    neck,
  }
}

const middle = ({ left, right, stereo }: Sound): Float32Array => (stereo ? monoSum([left, right]) : left)

/** s of the hard riff on which it is heard whether something changes. */
const TURNED_S = 1.5
/** Of a knob's travel that it is turned down by to see whether it does anything. */
const TURN = 0.2
/** Third octaves that lie deeper under the loudest are not missed in mono, dB. */
const MISSED = 20

type Values = Readonly<Record<string, ResolvedStage>>

const silenced = (values: Values, stages: readonly StageNode[]): Values =>
  stages.reduce(
    (now, { id }) => ({ ...now, [id]: { on: false, params: 'mix' in now[id].params ? { ...now[id].params, mix: 0 } : now[id].params } }),
    values,
  )

/** Every drive that is on switched off, and every gain of drives and amps turned down, one at a time. */
function otherwise(preset: Preset, snapshot: string, values: Values): (Omit<Turned, 'changeDb'> & { readonly values: Values })[] {
  const off = clippingStages(preset, snapshot)
    .filter((s) => modelOf(s.model).family === 'drive')
    .map((s) => ({ stage: s.id, param: null, value: 0, values: withStage(values, s.id, false) }))
  const down = gainParams(preset, snapshot).flatMap(({ stage: { id }, param, spec }) => {
    const travel = toTravel(spec, Number(values[id].params[param]))
    if (param === 'master' || travel < TURN) return []
    const value = fromTravel(spec, travel - TURN)
    const { on, params } = values[id]
    return [{ stage: id, param, value, values: { ...values, [id]: { on, params: { ...params, [param]: value } } } }]
  })
  return [...off, ...down]
}

/**
 * What a mono sum leaves of each third octave that is heard in stereo, dB.
 * @param both levels of both sides together
 */
function monoBandsOf(both: readonly Band[], mono: Float32Array, sampleRate: number): Reading['monoBands'] {
  const power = (db: number | null) => (db === null ? 0 : Math.pow(10, db / 10))
  const stereo = both.map((band) => power(band.db) / 2)
  const most = Math.max(...stereo)
  return thirdOctavesOf([mono], sampleRate).flatMap(({ hz, db }, i) =>
    stereo[i] > 0 && stereo[i] > most * Math.pow(10, -MISSED / 10)
      ? [{ hz, db: Math.max(-60, 10 * Math.log10(Math.max(power(db), 1e-12) / stereo[i])) }]
      : [],
  )
}

/** Share of a noise's power below 450 Hz within 7 Hz of a multiple of 50 or 60 Hz, 0–1: hum rather than hiss. */
function humShare(noise: Float32Array, sampleRate: number): number {
  const { power, binHz } = averageSpectrum([noise], sampleRate, 16_384)
  let [hum, all] = [0, 0]
  power.forEach((p, k) => {
    const hz = (k + 0.5) * binHz
    all += p
    if (hz < 450 && [50, 60].some((mains) => Math.abs(hz - Math.max(1, Math.round(hz / mains)) * mains) < 7)) hum += p
  })
  return all === 0 ? 0 : hum / all
}

/** Distortion in % of a tone whose peak lies at a level, between the measured points. */
export function thdAt({ inputDb, thd }: Reading['feel'], dbfsPeak: number): number {
  const at = inputDb.findIndex((db) => db >= dbfsPeak)
  if (at <= 0) return thd[at === 0 ? 0 : thd.length - 1]
  const part = (dbfsPeak - inputDb[at - 1]) / (inputDb[at] - inputDb[at - 1])
  return thd[at - 1] + part * (thd[at] - thd[at - 1])
}
