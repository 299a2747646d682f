import { riffOf, tempoOf, type Preset, type RiffChoice } from '@fulgor/core/preset'
import { RIFF_PEAK_DBFS, shippedRiffs, type Strength } from '@fulgor/core/riffs'
import type { Quality } from '@fulgor/core/signal'
import { SAMPLE_RATE } from './rate'
import type { Rendering, RiffSource } from './sounds'

export const isShipped = (riffId: string): boolean => shippedRiffs.some((r) => r.id === riffId)

/**
 * Where the dry signal of a snapshot comes from: a shipped riff at the preset's tempo, as loud as the chosen guitar, or the player's own
 * file as it is.
 * @param strength instead of the snapshot's own
 */
export function riffSource(preset: Preset, snapshot: string | null, strength?: Strength): RiffSource {
  return sourceOf(preset, snapshot, riffOf(preset, snapshot), strength)
}

/** The same for a riff of the caller's own. */
export function sourceOf(preset: Preset, snapshot: string | null, riff: RiffChoice, strength?: Strength): RiffSource {
  if (!isShipped(riff.id)) return { kind: 'asset', hash: riff.id }
  const gainDb = preset.guitar.hardPeakDbfs - RIFF_PEAK_DBFS
  const { id, take, pickup = preset.guitar.pickup, tuning } = riff
  return {
    kind: 'shipped',
    id,
    gainDb,
    played: { strength: strength ?? riff.strength, bpm: tempoOf(preset, snapshot), take, pickup, tuning },
  }
}

/** What is rendered when a snapshot of a preset is heard on its own riff. */
export const renderingOf = (preset: Preset, snapshot: string, quality: Quality, strength?: Strength): Rendering => ({
  preset,
  snapshot,
  riff: riffSource(preset, snapshot, strength),
  sampleRate: SAMPLE_RATE,
  quality,
})
