import { playedRiff } from '@fulgor/core/reading'
import { riffOf, type Preset, type RiffChoice } from '@fulgor/core/preset'
import type { Strength } from '@fulgor/core/riffs'
import type { Quality } from '@fulgor/core/signal'
import { SAMPLE_RATE } from './rate'
import type { Rendering, RiffSource } from './sounds'

/**
 * Where the dry signal of a snapshot comes from: a shipped riff, or the player's own file as it is.
 * @param strength instead of the snapshot's own
 */
export function riffSource(preset: Preset, snapshot: string | null, strength?: Strength): RiffSource {
  return sourceOf(preset, snapshot, riffOf(preset, snapshot), strength)
}

/** The same for a riff of the caller's own. */
export function sourceOf(preset: Preset, snapshot: string | null, riff: RiffChoice, strength?: Strength): RiffSource {
  const shipped = playedRiff(preset, snapshot, strength, riff)
  return shipped ? { kind: 'shipped', ...shipped } : { kind: 'asset', hash: riff.id }
}

/** What is rendered when a snapshot of a preset is heard on its own riff. */
export const renderingOf = (preset: Preset, snapshot: string, quality: Quality, strength?: Strength): Rendering => ({
  preset,
  snapshot,
  riff: riffSource(preset, snapshot, strength),
  sampleRate: SAMPLE_RATE,
  quality,
})
