import { pluckString, type Pluck } from './pluckedString'
import { plucksOf, scores } from './scores'

export type Strength = 'soft' | 'hard'

/** The riffs that ship with the app. */
export const shippedRiffs: readonly { readonly id: string; readonly name: string }[] = scores.map(({ id, name }) => ({ id, name }))

/** Strokes' strength: soft is about 11 dB below hard, and darker. */
const STRENGTH: Record<Strength, number> = { soft: 0.28, hard: 1 }

/** Peak of hard open chords as they are shipped: a hot pickup's hard strum, dBFS. */
export const RIFF_PEAK_DBFS = -7

/** The string model's level that gives this peak. */
const LEVEL = 0.0445
const HISS = 5e-5
const HUM = 6e-5

/** Riffs follow the preset's tempo within this range; beyond it they play at double or half time. */
export function riffTempo(bpm: number): number {
  let tempo = bpm
  while (tempo < 70) tempo *= 2
  while (tempo > 190) tempo /= 2
  return tempo
}

/**
 * A shipped riff as a dry guitar: six plucked strings, a magnetic pickup's resonance (3.2 kHz), hum and hiss. It loops without a
 * seam: what rings on after the last bar lies under the first one.
 * @param bpm quarter notes a minute, as the preset says; see {@link riffTempo}
 * @param take from 2 on the same notes are struck again: every stroke a little early or late, louder or softer, by another pick
 * @throws RangeError for an unknown riff
 */
export function synthesiseRiff(id: string, strength: Strength, bpm: number, sampleRate: number, take = 1): Float32Array {
  const score = scores.find((s) => s.id === id)
  if (!score) throw new RangeError(`There is no riff “${id}”.`)
  const tempo = riffTempo(bpm)
  const frames = Math.round((score.beats * 60 * sampleRate) / tempo)
  const tail = Math.round(1.5 * sampleRate)
  const random = generator(id.length * 7919 + 17 + (take - 1) * 104_729)
  const hand = take === 1 ? null : generator(take * 15_485_863 + id.length)
  const strings = new Float32Array(frames + tail)
  const played = plucksOf(score, tempo, STRENGTH[strength])
  if (hand) strikeAgain(played, hand)
  for (const plucks of played)
    if (plucks.length > 0) pluckString(strings, plucks, { sampleRate, pickPosition: score.pickPosition, pickupPosition: 0.2 }, random)
  const fade = Math.round(0.5 * sampleRate)
  for (let n = 0; n < tail; n++) strings[n] += strings[frames + n] * Math.min(1, (tail - n) / fade)
  return pickup(strings.subarray(0, frames), sampleRate, random)
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

/** Second-order resonance of coil and cable, then the noise that a real guitar brings. */
function pickup(strings: Float32Array, sampleRate: number, random: () => number): Float32Array {
  const w = 2 * Math.sin((Math.PI * 3200) / sampleRate)
  const damping = 1 / 1.6
  const out = new Float32Array(strings.length)
  let low = 0
  let band = 0
  // the loop's start hears the end's ringing: one pass ahead settles the filter
  for (let pass = 0; pass < 2; pass++)
    for (let n = pass === 0 ? Math.max(0, strings.length - 4800) : 0; n < strings.length; n++) {
      low += w * band
      band += w * (strings[n] - low - damping * band)
      const t = n / sampleRate
      const hum = Math.sin(2 * Math.PI * 100 * t) + 0.4 * Math.sin(2 * Math.PI * 200 * t)
      out[n] = low * LEVEL + HISS * (random() + random() - 1) * 2 + HUM * hum
    }
  return out
}

/** Deterministic noise, so that every thread makes the same riff (mulberry32). */
function generator(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = Math.imul(state ^ (state >>> 15), state | 1)
    t = (t + Math.imul(t ^ (t >>> 7), t | 61)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}
