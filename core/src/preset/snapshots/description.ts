import {
  choice,
  DocumentError,
  flag,
  id,
  ID_SCHEMA,
  list,
  named,
  number,
  optional,
  record,
  table,
  text,
  type Field,
  type RecordOf,
} from '@fulgor/core/document'
import type { ParamValue } from '@fulgor/core/signal'
import { NOTE_VALUES } from '@fulgor/core/stage'
import { TEMPO_RANGE } from '@fulgor/core/recording'
import { benchField } from '../bench/description'
import { snapshotHandFields } from '../guitars/description'
import { snapshotLevelFields } from '../levels/description'
import { snapshotTakeFields } from '../takes/description'
import type { ParamMap } from '../values'

export const MAX_SNAPSHOTS = 8

/** Values of a stage whose model is not known here. */
export const looseValues: Field<ParamMap> = {
  read(value, path) {
    if (typeof value !== 'object' || value === null || Array.isArray(value)) throw new DocumentError(path, 'must be an object.')
    return value as Record<string, ParamValue>
  },
  schema: () => ({ type: 'object' }),
}

const overrideRecord = record({
  on: optional(flag()),
  params: optional(looseValues),
  /** Of a cabinet: microphones that stand elsewhere in this snapshot. */
  bench: optional(benchField),
})

/** What a snapshot changes on one stage. */
export type StageOverride = RecordOf<typeof overrideRecord.fields>

/** What snapshots change, by stage; whether it fits is seen once the chain is known. */
export const overridesField = table(overrideRecord)

const parentField: Field<string> = {
  read: (value, path, reading) => text(80).read(value, path, reading),
  schema: () => ({ ...ID_SCHEMA, description: 'Snapshot that it has grown from.' }),
}

const snapshotRecord = record({
  id: id(),
  name: text(80),
  ...snapshotLevelFields,
  ...snapshotHandFields,
  /** bpm, instead of the preset's. */
  tempo: optional(number(TEMPO_RANGE, { about: 'Quarter notes a minute, instead of the preset’s.' })),
  /** Note value that one tap of the player stands for; a quarter by itself. */
  tap: optional(
    choice(
      NOTE_VALUES.map((n) => n.id),
      { about: 'What one tap stands for.' },
    ),
  ),
  /** The snapshot that this one has grown from. */
  parent: optional(parentField),
  ...snapshotTakeFields,
  stages: overridesField,
})

export type Snapshot = RecordOf<typeof snapshotRecord.fields>

export const snapshotFields = snapshotRecord.fields

export const snapshotsField = list(
  named('snapshot', () => snapshotRecord),
  MAX_SNAPSHOTS,
  {
    least: 1,
    none: 'must hold at least one snapshot.',
  },
)
