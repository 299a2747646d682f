import { voiceOf, type Voice } from '@fulgor/core/guitar'
import { playedRiff, voiceIn } from '@fulgor/core/reading'
import { riffOf, type Preset, type RiffChoice } from '@fulgor/core/preset'
import type { Strength } from '@fulgor/core/riffs'
import type { Quality } from '@fulgor/core/signal'
import { SAMPLE_RATE } from './rate'
import type { Rendering, RiffSource } from './sounds'

/**
 * Where the dry signal of a snapshot comes from: a shipped riff, or what the preset loops of the player's own file.
 * @param strength instead of the snapshot's own
 */
export function riffSource(preset: Preset, snapshot: string | null, strength?: Strength): RiffSource {
  return sourceOf(preset, snapshot, riffOf(preset, snapshot), strength)
}

/** The same for a riff of the caller's own. */
export function sourceOf(preset: Preset, snapshot: string | null, riff: RiffChoice, strength?: Strength): RiffSource {
  const shipped = playedRiff(preset, snapshot, strength, riff)
  if (shipped) return { kind: 'shipped', ...shipped }
  return { kind: 'asset', hash: riff.id, ...(riff.part ? { part: riff.part } : {}), ...carriedOn(preset, snapshot, riff) }
}

/** What an own recording was made on and is played on, where that is told and not the same. */
function carriedOn(preset: Preset, snapshot: string | null, { made }: RiffChoice): { from?: Voice; to?: Voice } {
  const guitar = preset.guitars.find((g) => g.id === made?.guitar)
  if (!made || !guitar) return {}
  const to = voiceIn(preset, snapshot)
  const from = voiceOf(guitar, guitar.positions[Math.min(made.position, guitar.positions.length - 1)])
  return JSON.stringify(from) === JSON.stringify(to) ? {} : { from, to }
}

/** What is rendered when a snapshot of a preset is heard on its own riff. */
export const renderingOf = (preset: Preset, snapshot: string, quality: Quality, strength?: Strength): Rendering => ({
  preset,
  snapshot,
  riff: riffSource(preset, snapshot, strength),
  sampleRate: SAMPLE_RATE,
  quality,
})
