import { createStage } from './chain/chain'
import type { GuitarProfile } from './levels/description'
import { PRESET_FORMAT, PRESET_VERSION, type Preset } from './preset'

/** Shipped guitar profiles: hard strums near the ends of what pickups give (common practice, no source). */
export const GUITARS: readonly GuitarProfile[] = [
  { name: 'Hot humbucker', hardPeakDbfs: -7, pickup: 'bridge' },
  { name: 'Mild humbucker', hardPeakDbfs: -11, pickup: 'bridge' },
  { name: 'Fat single coil', hardPeakDbfs: -14, pickup: 'split' },
  { name: 'Mild single coil', hardPeakDbfs: -19, pickup: 'middle-neck' },
]

/** A blank preset: amp, cabinet and output, one snapshot, so that it sounds at once. */
export function blankPreset(name: string): Preset {
  return {
    format: PRESET_FORMAT,
    version: PRESET_VERSION,
    name,
    tags: [],
    notes: '',
    tempo: 120,
    targetLufs: -18,
    riff: { id: 'open-chords', strength: 'hard' },
    guitar: GUITARS[0],
    chain: [createStage('amp', 'amp.lantern'), createStage('cab', 'cabinet'), createStage('out', 'output')],
    snapshots: [{ id: 's1', name: 'Main', stages: {} }],
  }
}
