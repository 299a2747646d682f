import { riffOf, tempoOf, type Preset, type RiffChoice } from '@fulgor/core/preset'
import { playRiff, RIFF_PEAK_DBFS, shippedRiffs, type Performance, type Strength } from '@fulgor/core/riffs'
import { dbToGain } from '@fulgor/core/signal'

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
