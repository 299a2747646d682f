import { constant, DocumentError, migrated, optional, readWith, record, schemaOf, type Json, type RecordOf } from '@fulgor/core/document'
import { aboutFields } from './about/description'
import { checkBoard } from './board/check'
import { asidesField } from './aside/description'
import { boardField } from './board/description'
import { findStage } from './chain/chain'
import { chainField } from './chain/description'
import { checkControls } from './controls/check'
import { controlsField } from './controls/description'
import { checkGuitars } from './guitars/check'
import { guitarsFields } from './guitars/description'
import { layersField } from './layers/description'
import { levelFields } from './levels/description'
import { midiPlanField } from './midi/description'
import { MIGRATIONS } from './migrations'
import { checkSnapshots } from './snapshots/check'
import { snapshotsField } from './snapshots/description'
import { deviceField } from './takes/description'

export const PRESET_FORMAT = 'fulgor.preset'
export const PRESET_VERSION = 4

const presetRecord = record({
  format: constant(PRESET_FORMAT),
  version: constant(PRESET_VERSION),
  ...aboutFields,
  ...levelFields,
  ...guitarsFields,
  /** The player's device. */
  device: optional(deviceField),
  /** What it is heard together with. */
  layers: optional(layersField),
  midiPlan: optional(midiPlanField),
  // ids of stages, lanes and snapshots share one scope: the chain is read first
  chain: chainField,
  snapshots: snapshotsField,
  /** What moves parameters. */
  controls: optional(controlsField),
  /** What the foot controller's switches do. */
  board: optional(boardField),
  asides: optional(asidesField),
})

/** A preset: base values, and per snapshot only what differs. Times that follow the tempo keep their note value. */
export type Preset = RecordOf<typeof presetRecord.fields>

/** Fields of a preset with their limits. */
export const presetFields = presetRecord.fields

/** What parts of a preset say of each other. */
const CHECKS: readonly ((preset: Preset) => void)[] = [checkSnapshots, checkTrim, checkGuitars, checkControls, checkBoard]

function checkTrim(preset: Preset): void {
  if (preset.trim !== undefined && !findStage(preset, preset.trim))
    throw new DocumentError('trim', 'must name a stage or lane of the chain.')
}

/**
 * Reads an unknown value as a preset. Missing parameters of a stage take the catalogue's defaults; all else must be there and
 * in range. Older format versions are migrated first.
 * @throws DocumentError naming the field and the reason
 */
export function readPreset(value: unknown): Preset {
  const { $schema: _, ...document } = migrated(value, PRESET_FORMAT, 'preset', MIGRATIONS)
  const preset = readWith(presetRecord, document)
  for (const check of CHECKS) check(preset)
  return preset
}

/** The published JSON Schema (draft 2020-12) of a preset document, derived from its description and the catalogue. */
export function presetSchema(): Json {
  const schema = schemaOf(presetRecord, { $id: `urn:fulgor:preset:${PRESET_VERSION}`, title: 'Fulgor preset' })
  return { ...schema, properties: { $schema: { type: 'string' }, ...(schema.properties as Json) } }
}
