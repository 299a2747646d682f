import {
  choice,
  constant,
  flag,
  list,
  migrated,
  nullable,
  number,
  optional,
  readWith,
  record,
  schemaOf,
  text,
  type Json,
  type RecordOf,
} from '@fulgor/core/document'

export const PLACE_FORMAT = 'fulgor.place'
export const PLACE_VERSION = 1
export const MAX_PLACE_BANDS = 12

/** LUFS that a place's level is told for. */
export const PLACE_LUFS = -18

const bandRecord = record({
  kind: choice(['low', 'bell', 'high']),
  hz: number([20, 20_000]),
  db: number([-24, 24]),
  q: number([0.2, 10]),
})
/** One band of a response: a shelf below or above, or a bell. */
export type PlaceBand = RecordOf<typeof bandRecord.fields>
export const placeBandFields = bandRecord.fields

const backingRecord = record({
  /** Id of a backing in the Kit. */
  recording: text(40),
  lufs: number([-60, 0], { about: 'Loudness that the backing is played at.' }),
})
export const backingFields = backingRecord.fields
export type PlaceBacking = RecordOf<typeof backingRecord.fields>

const placeFields = {
  name: text(60),
  notes: text(10_000, { least: 0 }),
  /** dB SPL that −18 LUFS gives there. */
  level: number([30, 120], { about: 'dB SPL that −18 LUFS gives there.' }),
  mono: flag({ about: 'Both sides are summed there.' }),
  /** What the place does to the sound. */
  response: list(bandRecord, MAX_PLACE_BANDS),
  /** What the player sets against it there; null: nothing. */
  correction: nullable(list(bandRecord, 3)),
  /** The band that is heard along with the riff there; without it, none. */
  backing: optional(backingRecord),
}

const placeRecord = record({ format: constant(PLACE_FORMAT), version: constant(PLACE_VERSION), ...placeFields })
export type Place = RecordOf<typeof placeRecord.fields>
export const placeDocFields = placeFields

/** @throws DocumentError naming the field and the reason */
export const readPlace = (value: unknown): Place => {
  const { $schema: _, ...document } = migrated(value, PLACE_FORMAT, 'place', [])
  return readWith(placeRecord, document)
}

export const placeSchema = (): Json => schemaOf(placeRecord, { $id: `urn:fulgor:place:${PLACE_VERSION}`, title: 'Fulgor place' })

const place = (name: string, level: number, mono: boolean, response: readonly PlaceBand[] = [], notes = ''): Place => ({
  format: PLACE_FORMAT,
  version: PLACE_VERSION,
  name,
  notes,
  level,
  mono,
  response,
  correction: null,
})

/** Places to begin with; levels and responses are common practice, no source: measure yours. */
export const PLACES_TO_BEGIN: readonly Place[] = [
  place('Headphones at night', 65, false),
  place('Monitors', 76, false, [{ kind: 'low', hz: 60, db: -6, q: 0.7 }]),
  place('Loud rehearsal', 96, false, [{ kind: 'bell', hz: 160, db: 3, q: 1 }]),
  place('House PA, mono', 94, true, [
    { kind: 'low', hz: 70, db: 3, q: 0.7 },
    { kind: 'high', hz: 8_000, db: -4, q: 0.7 },
  ]),
  place('In-ears', 82, false, [{ kind: 'low', hz: 50, db: -4, q: 0.7 }]),
]
