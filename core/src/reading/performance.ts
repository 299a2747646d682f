import { riffOf, tempoOf, type Preset, type RiffChoice } from '@fulgor/core/preset'
import {
  neckNotes,
  playRiff,
  restingGuitar,
  RIFF_PEAK_DBFS,
  shippedRiffs,
  STROKE_DB,
  type Performance,
  type PickupKind,
  type Strength,
} from '@fulgor/core/riffs'
import { dbToGain } from '@fulgor/core/signal'
import type { Dry, ReadingJob } from './reading'

/** A shipped riff as a preset plays it. */
export interface Played {
  readonly id: string
  /** dB that make it as loud as the preset's guitar. */
  readonly gainDb: number
  readonly played: Performance
}

export const isShipped = (riffId: string): boolean => shippedRiffs.some((r) => r.id === riffId)

/**
 * How a snapshot's shipped riff is played: at the preset's tempo, as loud as the chosen guitar; null for the player's own recording.
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
  const { id, take, pickup = preset.guitar.pickup, tuning } = riff
  return {
    id,
    gainDb: preset.guitar.hardPeakDbfs - RIFF_PEAK_DBFS,
    played: { strength: strength ?? riff.strength, bpm: tempoOf(preset, snapshot), take, pickup, tuning },
  }
}

/** The dry signal of it. */
export const soundOf = ({ id, gainDb, played }: Played, sampleRate: number): Float32Array => {
  const gain = dbToGain(gainDb)
  return playRiff(id, sampleRate, played).map((x) => x * gain)
}

const notesKept = new Map<string, Float32Array>()

/** Made once for each pickup: every snapshot is read on them. */
function notesOf(sampleRate: number, pickup: PickupKind | undefined): Float32Array {
  const key = `${sampleRate} ${pickup ?? ''}`
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
 * @param pickup of the guitar that rests
 */
export function readingSignals(
  riff: Dry,
  hand: { readonly soft: Dry; readonly hard: Dry } | null,
  pickup: PickupKind | undefined,
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
    rest: { key: `rest ${pickup ?? ''}`, samples: restingGuitar(REST_S, sampleRate, pickup) },
    notes: { key: `notes ${pickup ?? ''}`, samples: notesOf(sampleRate, pickup) },
  }
}
