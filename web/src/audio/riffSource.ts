import type { Preset } from '@fulgor/core/preset'
import { shippedRiffs } from '@fulgor/core/riffs'
import type { RiffSource } from './render.worker'

/** Where the dry signal of a preset comes from: a shipped riff at the preset's tempo, or the player's own file. */
export function riffSource({ riff, tempo }: Preset): RiffSource {
  if (shippedRiffs.some((r) => r.id === riff.id)) return { kind: 'shipped', id: riff.id, strength: riff.strength, bpm: tempo }
  return { kind: 'asset', hash: riff.id }
}
