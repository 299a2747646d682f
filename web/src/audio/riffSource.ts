import type { Preset } from '@fulgor/core/preset'
import { RIFF_PEAK_DBFS, shippedRiffs } from '@fulgor/core/riffs'
import type { RiffSource } from './render.worker'

/**
 * Where the dry signal of a preset comes from: a shipped riff at the preset's tempo, as loud as the chosen guitar, or the player's own
 * file as it is.
 */
export function riffSource({ riff, tempo, guitar }: Preset): RiffSource {
  if (!shippedRiffs.some((r) => r.id === riff.id)) return { kind: 'asset', hash: riff.id }
  return { kind: 'shipped', id: riff.id, strength: riff.strength, bpm: tempo, gainDb: guitar.hardPeakDbfs - RIFF_PEAK_DBFS }
}
