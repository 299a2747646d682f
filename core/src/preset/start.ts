import { createStage } from './chain/chain'
import { GUITARS } from '@fulgor/core/guitar'
import type { GuitarProfile } from '@fulgor/core/guitar'
import { usedGuitar } from './guitars/edits'
import { PRESET_FORMAT, PRESET_VERSION, type Preset } from './preset'

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
    ...playedOn(GUITARS[0]),
    chain: [createStage('amp', 'amp.lantern'), createStage('cab', 'cabinet'), createStage('out', 'output')],
    snapshots: [{ id: 's1', name: 'Main', stages: {} }],
  }
}

/** A preset's guitar, which it was made on and is played on. */
export const playedOn = (profile: GuitarProfile, id = 'made-on', kit?: string): Pick<Preset, 'guitars' | 'madeOn' | 'hand'> => ({
  guitars: [usedGuitar(id, profile, kit)],
  madeOn: 0,
  hand: { guitar: id, position: 0, volume: 10, tone: 10 },
})
