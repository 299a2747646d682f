import { presetListed } from '@fulgor/core/api'
import { PRESET_VERSION, presetSchema, readPreset, stagesOf, type Preset } from '@fulgor/core/preset'
import type { DocumentKind } from '../kind'

export const presetKind: DocumentKind<Preset> = {
  kind: 'preset',
  path: 'presets',
  title: 'Preset',
  version: PRESET_VERSION,
  read: readPreset,
  schema: presetSchema,
  name: (preset) => preset.name,
  tags: (preset) => preset.tags,
  text: (preset) => preset.notes,
  listed: presetListed,
  list: ({ tempo, chain, snapshots }) => ({ tempo, stageCount: stagesOf(chain).length, snapshotCount: snapshots.length }),
}
