import { bessel0 } from '@fulgor/core/signal'
import { pickupOf, throughCoil, type Pickup, type PickupKind } from './pickups'
import { ANSWERING, Deviates, playingKernel, REACH, STRINGS } from './playing'
import { pluckString, type Pluck } from './pluckedString'
import { plucksOf, scores } from './scores'
import { openHz, partialT60, type StringOffsets } from './strings'

export const STRENGTHS = ['soft', 'normal', 'hard'] as const
export type Strength = (typeof STRENGTHS)[number]

/** The riffs that ship with the app. */
export const shippedRiffs: readonly { readonly id: string; readonly name: string; readonly bars: number }[] = scores.map(
  ({ id, name, beats }) => ({ id, name, bars: beats / 4 }),
)

/** Strokes' strength below a hard one, dB; softer ones are darker too (common practice, no source). */
export const STROKE_DB: Record<Strength, number> = { soft: -11, normal: -5, hard: 0 }

/** Peak of hard open chords as they are shipped: a hot pickup's hard strum, dBFS. */
export const RIFF_PEAK_DBFS = -7

/** The string model's level that gives this peak. */
const LEVEL = 0.187
const HISS = 3e-5

/** What a guitar gives by itself, levels as RMS in dBFS. */
export interface GuitarNoise {
  readonly humDbfs: number
  /** Hz. */
  readonly mains: 50 | 60
  readonly hissDbfs: number
}

/** Riffs follow the preset's tempo within this range; beyond it they play at double or half time. */
export function riffTempo(bpm: number): number {
  let tempo = bpm
  while (tempo < 70) tempo *= 2
  while (tempo > 190) tempo /= 2
  return tempo
}

/** What is played how, by itself at 120 bpm on the bridge pickup in standard tuning. */
export interface Performance {
  readonly strength: Strength
  /** Quarter notes a minute, as the preset says; see {@link riffTempo}. */
  readonly bpm: number
  /** From 2 on the same notes are struck again: every stroke a little early or late, louder or softer, by another pick. */
  readonly take?: number
  readonly pickup?: PickupKind | Pickup
  readonly tuning?: StringOffsets
  /** Instead of what the pickup has: null for none. */
  readonly noise?: GuitarNoise | null
}

const levelOf = ({ levelDb }: Pickup): number => LEVEL * Math.pow(10, levelDb / 20)

const pickupFrom = (pickup: PickupKind | Pickup): Pickup => (typeof pickup === 'string' ? pickupOf(pickup) : pickup)

/**
 * A shipped riff as a dry guitar: six plucked strings over the coils of a pickup, its circuit, hum and hiss. A hard strum of open
 * chords peaks near {@link RIFF_PEAK_DBFS} on every pickup. It loops without a seam: what rings on after the last bar lies under the
 * first one.
 * @throws RangeError for an unknown riff or pickup
 */
export function playRiff(id: string, sampleRate: number, performance: Performance): Float32Array {
  const score = scores.find((s) => s.id === id)
  if (!score) throw new RangeError(`There is no riff “${id}”; there are ${scores.map((s) => s.id).join(', ')}.`)
  const { strength, bpm, take = 1, tuning = 'standard' } = performance
  const pickup = pickupFrom(performance.pickup ?? 'bridge')
  const tempo = riffTempo(bpm)
  const frames = Math.round((score.beats * 60 * sampleRate) / tempo)
  const tail = Math.round(1.5 * sampleRate)
  const random = new Deviates(id.length * 7919 + 17 + (take - 1) * 104_729)
  const hand = take === 1 ? null : new Deviates(take * 15_485_863 + id.length)
  // strings hold nothing above a quarter of the sample rate
  const half = new Float32Array(Math.ceil((frames + tail) / 2) + 2 * REACH)
  const played = plucksOf(score, tempo, Math.pow(10, STROKE_DB[strength] / 20), tuning)
  if (hand) strikeAgain(played, hand.next)
  for (const plucks of played)
    if (plucks.length > 0) pluckString(half, plucks, { sampleRate: sampleRate / 2, pickAt: score.pickAt, pickup }, random.next)
  if (score.open) answer(half, tuning, sampleRate / 2)
  const strings = doubled(half, frames + tail)
  const fade = Math.round(0.5 * sampleRate)
  for (let n = 0; n < tail; n++) strings[n] += strings[frames + n] * Math.min(1, (tail - n) / fade)
  const out = strings.slice(0, frames)
  throughCoil(out, pickup, sampleRate, levelOf(pickup))
  const { noise = noiseOf(pickup) } = performance
  if (noise) addNoise(out, noise, sampleRate, random)
  return out
}

/** Shares of the mains' own frequency, its octave and double octave in what a coil picks up (common practice, no source). */
const HUM = [0.6, 1, 0.4]
const HUM_RMS = Math.sqrt(HUM.reduce((sum, a) => sum + a * a, 0) / 2)
/** RMS of the sum of two even deviates from 0 to 1, less their mean. */
const PAIR_RMS = Math.sqrt(1 / 6)

/** The noise that a shipped pickup has by itself. */
export const noiseOf = ({ hum }: Pick<Pickup, 'hum'>): GuitarNoise => ({
  humDbfs: 20 * Math.log10(hum * HUM_RMS),
  mains: 50,
  hissDbfs: 20 * Math.log10(2 * HISS * PAIR_RMS),
})

/** Lays hum and hiss of a guitar under a signal, in place. */
export function addNoise(
  signal: Float32Array,
  { humDbfs, mains, hissDbfs }: GuitarNoise,
  sampleRate: number,
  deviates = new Deviates(9_241),
): void {
  const hum = Math.pow(10, humDbfs / 20) / HUM_RMS
  const hiss = Math.pow(10, hissDbfs / 20) / PAIR_RMS
  playingKernel().addNoise(signal, (2 * Math.PI * mains) / sampleRate, hum, hiss, HUM, deviates)
}

/** A guitar that is not played: its noise alone. */
export function restingGuitar(seconds: number, sampleRate: number, noise: GuitarNoise = noiseOf(pickupOf('bridge'))): Float32Array {
  const rest = new Float32Array(Math.round(seconds * sampleRate))
  addNoise(rest, noise, sampleRate, new Deviates(4_127))
  return rest
}

/** s of {@link strokes}. */
const STROKES_S = 2

const struck = new Map<string, Float32Array>()
const MOST_STRUCK = 32

/**
 * The first bar of the strummed open chords without noise, on a pickup: what a guitar's level and brightness are told by. Kept: whoever
 * changes it changes a copy.
 */
export function strokes(pickup: Pickup, strength: Strength, sampleRate: number, tuning: StringOffsets = 'standard'): Float32Array {
  const key = JSON.stringify([pickup, strength, sampleRate, tuning])
  const found = struck.get(key) ?? strikeChords(pickup, strength, sampleRate, tuning)
  struck.delete(key)
  struck.set(key, found)
  if (struck.size > MOST_STRUCK) struck.delete([...struck.keys()][0])
  return found
}

function strikeChords(pickup: Pickup, strength: Strength, sampleRate: number, tuning: StringOffsets): Float32Array {
  const frames = Math.round(STROKES_S * sampleRate)
  const half = new Float32Array(Math.ceil(frames / 2) + 2 * REACH)
  const random = new Deviates(3_571)
  const score = scores.find((s) => s.id === 'open-chords') ?? scores[0]
  for (const plucks of plucksOf(score, 120, Math.pow(10, STROKE_DB[strength] / 20), tuning)) {
    const first = plucks.filter((p) => p.at < STROKES_S)
    if (first.length > 0) pluckString(half, first, { sampleRate: sampleRate / 2, pickAt: score.pickAt, pickup }, random.next)
  }
  const out = doubled(half, frames)
  throughCoil(out, pickup, sampleRate, levelOf(pickup))
  return out
}

/** s that each of {@link neckNotes} rings. */
export const NECK_NOTE_S = 0.3

/** Single notes up the neck: whole tones from the open A to the top of the high E, in standard tuning. */
export const NECK_NOTES: readonly { readonly string: number; readonly fret: number; readonly hz: number }[] = Array.from(
  { length: 17 },
  (_, i) => {
    const above = 5 + 2 * i
    const string = [5, 4, 3, 2, 1].find((s) => openHz(s, 'standard') <= openHz(0, 'standard') * Math.pow(2, (above + 0.5) / 12)) ?? 1
    const hz = openHz(0, 'standard') * Math.pow(2, above / 12)
    return { string, fret: Math.round(12 * Math.log2(hz / openHz(string, 'standard'))), hz }
  },
)

/** {@link NECK_NOTES} one after another, picked normally: what shows single notes that stand out. */
export function neckNotes(sampleRate: number, kind: PickupKind | Pickup = 'bridge'): Float32Array {
  const pickup = pickupFrom(kind)
  const frames = Math.round(NECK_NOTES.length * NECK_NOTE_S * sampleRate)
  const half = new Float32Array(Math.ceil(frames / 2) + 2 * REACH)
  const strength = Math.pow(10, STROKE_DB.normal / 20)
  NECK_NOTES.forEach((note, i) =>
    pluckString(
      half,
      [{ ...note, at: i * NECK_NOTE_S, length: NECK_NOTE_S, strength, mute: 0 }],
      { sampleRate: sampleRate / 2, pickAt: 0.12, pickup },
      new Deviates(7_919 + i).next,
    ),
  )
  const out = doubled(half, frames)
  throughCoil(out, pickup, sampleRate, levelOf(pickup))
  return out
}

/** When the hand strikes in a shipped riff, s from its start, rising; null for another riff. */
export function riffOnsets(id: string, bpm: number): number[] | null {
  const score = scores.find((s) => s.id === id)
  if (!score) return null
  const times = plucksOf(score, riffTempo(bpm), 1, 'standard')
    .flatMap((plucks) => plucks.map((p) => p.at))
    .sort((a, b) => a - b)
  // strings of one stroke sound as one
  return times.filter((t, i) => i === 0 || t - times[i - 1] > 0.04)
}

/** {@link playRiff} with the arguments that most callers have. */
export const synthesiseRiff = (id: string, strength: Strength, bpm: number, sampleRate: number, take = 1): Float32Array =>
  playRiff(id, sampleRate, { strength, bpm, take })

/** Half of a Kaiser-windowed half-band sinc, from the middle on; flat to 0.38 of the lower rate. */
const DOUBLING = Float64Array.from({ length: REACH }, (_, k) => {
  const x = k + 0.5
  return ((Math.sin(Math.PI * x) / (Math.PI * x)) * bessel0(7 * Math.sqrt(1 - (x / REACH) ** 2))) / bessel0(7)
})

/** The same sound at twice the rate. */
const doubled = (half: Float32Array, frames: number): Float32Array => playingKernel().doubled(half, DOUBLING, frames)

/** Share of a string's motion that the bridge hands to the others. */
const CROSSTALK = 0.04

/** Open strings answer through the bridge: their first partials as resonators on the sum. */
function answer(strings: Float32Array, tuning: StringOffsets, sampleRate: number): void {
  const resonator = (string: number, partial: number) => {
    const hz = openHz(string, tuning) * partial
    const radius = Math.pow(10, -3 / (partialT60(string, 0, 0, hz) * sampleRate))
    return {
      a1: 2 * radius * Math.cos((2 * Math.PI * hz) / sampleRate),
      a2: radius * radius,
      gain: 2 * CROSSTALK * (1 - radius) * Math.sin((2 * Math.PI * hz) / sampleRate),
    }
  }
  const answering = Array.from({ length: STRINGS }, (_, string) => Array.from({ length: ANSWERING }, (_, k) => resonator(string, k + 1)))
  playingKernel().answer(strings, answering)
}

/** Standard deviation of a practised player's onsets, s (Repp, Psychonomic Bulletin & Review 2005, from memory), and of strokes, dB. */
const LATE_S = 0.007
const LOUDER_DB = 0.8

/** Moves the strokes of a performance as a hand does; strings that were struck together stay together. */
function strikeAgain(strings: Pluck[][], random: () => number): void {
  const gauss = () => Math.sqrt(-2 * Math.log(random() + 1e-12)) * Math.cos(2 * Math.PI * random())
  const strokes = new Map<number, { late: number; louder: number }>()
  for (const plucks of strings) {
    for (const [i, pluck] of plucks.entries()) {
      // one stroke of the hand takes some 50 ms at most
      const stroke = Math.round(pluck.at * 20)
      let moved = strokes.get(stroke)
      if (!moved) strokes.set(stroke, (moved = { late: LATE_S * gauss(), louder: LOUDER_DB * gauss() }))
      const strength = pluck.strength * Math.pow(10, moved.louder / 20)
      plucks[i] = { ...pluck, at: Math.max(0, pluck.at + moved.late), strength: Math.min(1, strength) }
    }
    plucks.sort((a, b) => a.at - b.at)
  }
}
