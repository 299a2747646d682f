import { playOn, tuningOffsets, voiceOf, type Voice } from '@fulgor/core/guitar'
import { handOf, riffOf, tempoOf, type Preset, type RiffChoice } from '@fulgor/core/preset'
import { neckNotes, restingGuitar, shippedRiffs, STROKE_DB, type Performance, type Pickup, type Strength } from '@fulgor/core/riffs'
import { dbToGain } from '@fulgor/core/signal'
import type { Dry, ReadingJob } from './reading'

/** A shipped riff as a preset plays it. */
export interface Played {
  readonly id: string
  /** What of the guitar sounds. */
  readonly voice: Voice
  readonly played: Omit<Performance, 'pickup' | 'noise'>
}

export const isShipped = (riffId: string): boolean => shippedRiffs.some((r) => r.id === riffId)

/**
 * How a snapshot's shipped riff is played: at the preset's tempo, on the guitar that plays; null for the player's own recording.
 * @param strength instead of the riff's own
 * @param riff instead of the snapshot's own
 */
export function playedRiff(
  preset: Preset,
  snapshot: string | null,
  strength?: Strength,
  riff: RiffChoice = riffOf(preset, snapshot),
): Played | null {
  if (!isShipped(riff.id)) return null
  const { id, take } = riff
  const { profile, position } = handOf(preset, snapshot)
  const tuning = riff.tuning ?? ownTuning(profile)
  return {
    id,
    voice: voiceOf(profile, profile.positions[Math.min(riff.position ?? position, profile.positions.length - 1)]),
    played: { strength: strength ?? riff.strength, bpm: tempoOf(preset, snapshot), take, ...(tuning ? { tuning } : {}) },
  }
}

/** Semitones off E standard; none where it is that. */
function ownTuning(profile: Parameters<typeof tuningOffsets>[0]): readonly number[] | undefined {
  const offsets = tuningOffsets(profile)
  return offsets.some((o) => Math.abs(o) > 1e-6) ? offsets : undefined
}

/** The voice that a snapshot is played on. */
export function voiceIn(preset: Preset, snapshot: string | null): Voice {
  const { profile, pickup } = handOf(preset, snapshot)
  return voiceOf(profile, pickup)
}

/** The dry signal of it. */
export const soundOf = ({ id, voice, played }: Played, sampleRate: number): Float32Array => playOn(id, voice, played, sampleRate)

const notesKept = new Map<string, Float32Array>()

/** Made once for each pickup: every snapshot is read on them. */
function notesOf(sampleRate: number, pickup: Pickup): Float32Array {
  const key = `${sampleRate} ${JSON.stringify(pickup)}`
  let notes = notesKept.get(key)
  if (!notes) notesKept.set(key, (notes = neckNotes(sampleRate, pickup)))
  return notes
}

/** s of the riff that is played soft and hard, and of the resting guitar. */
const HAND_S = 4
const REST_S = 2

/**
 * What a snapshot is read on.
 * @param hand the riff played soft and hard; null for the player's own recording, which is turned down by what a soft stroke is softer
 * @param voice of the guitar that rests
 */
export function readingSignals(
  riff: Dry,
  hand: { readonly soft: Dry; readonly hard: Dry } | null,
  voice: Pick<Voice, 'pickup' | 'noise'>,
  sampleRate: number,
): Pick<ReadingJob, 'riff' | 'soft' | 'hard' | 'rest' | 'notes'> {
  const start = ({ key, samples }: Dry): Dry => ({ key: `${key} start`, samples: samples.slice(0, HAND_S * sampleRate) })
  const hard = start(hand?.hard ?? riff)
  const gain = dbToGain(STROKE_DB.soft - STROKE_DB.hard)
  const soft = hand ? start(hand.soft) : { key: `${hard.key} soft`, samples: hard.samples.map((x) => x * gain) }
  return {
    riff,
    soft,
    hard,
    rest: { key: `rest ${JSON.stringify(voice.noise)}`, samples: restingGuitar(REST_S, sampleRate, voice.noise) },
    notes: { key: `notes ${JSON.stringify(voice.pickup)}`, samples: notesOf(sampleRate, voice.pickup) },
  }
}
