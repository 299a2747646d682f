import { findStage } from '../chain/chain'
import type { Preset } from '../preset'

/** Forgets what levelling turned, where it is gone. */
export function forgetTrim(preset: Preset): Preset {
  if (preset.trim === undefined || findStage(preset, preset.trim)) return preset
  const { trim: _, ...rest } = preset
  return rest
}
