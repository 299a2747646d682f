import {
  choice,
  constant,
  DocumentError,
  list,
  migrated,
  matching,
  nullable,
  number,
  optional,
  readWith,
  record,
  refined,
  schemaOf,
  text,
  whole,
  type Json,
  type RecordOf,
} from '@fulgor/core/document'
import { THIRD_OCTAVES } from '@fulgor/core/measure'
import { noteNumber } from './tuning'

export const GUITAR_FORMAT = 'fulgor.guitar'
export const GUITAR_VERSION = 1

export const PICKUP_KINDS = ['single', 'split', 'humbucker', 'active', 'piezo', 'two'] as const
export type PickupType = (typeof PICKUP_KINDS)[number]

/** Where what sounds lies under the strings. */
export const PLACES = ['bridge', 'middle', 'neck', 'bridge-middle', 'middle-neck', 'bridge-neck'] as const
export type PickupPlace = (typeof PLACES)[number]

export const MAX_POSITIONS = 12

const level = number([-140, 0])

const strokeRecord = record({
  /** dBFS. */
  peakDbfs: level,
  rmsDbfs: level,
})

const noteField = refined(text(4), (name, path) => {
  if (noteNumber(name) === null) throw new DocumentError(path, `“${name}” is no note with its octave, as E2 or B♭1 are.`)
})

const stringRecord = record({
  note: noteField,
  /** Cents that the player tunes it off that note. */
  cents: number([-50, 50], { about: 'Cents off the note.' }),
})
export type StringTuning = RecordOf<typeof stringRecord.fields>

const day = refined(matching('^\\d{4}-\\d{2}-\\d{2}$', 'must be a day as YYYY-MM-DD.'), (value, path) => {
  if (Number.isNaN(Date.parse(value))) throw new DocumentError(path, 'must be a day as YYYY-MM-DD.')
})

/** What was heard of a position's open strings: each as cents off its note; null where it was not heard alone. */
const heardPitch = record({
  /** Hz of the A4 that the guitar is tuned to, all strings taken together. */
  a4: number([380, 500], { about: 'Concert pitch that was heard, Hz.' }),
  cents: list(nullable(number([-100, 100])), 12),
})

const positionRecord = record({
  name: text(40),
  kind: choice(PICKUP_KINDS),
  place: choice(PLACES),
  /** Of all that sounds together. */
  resistance: number([0, 100], { about: 'Series resistance, kΩ.' }),
  inductance: number([0, 30], { about: 'Inductance, H.' }),
  capacitance: number([0, 5_000], { about: 'Capacitance of the coil itself, pF.' }),
  soft: strokeRecord,
  normal: strokeRecord,
  hard: strokeRecord,
  /** Of a normal strum; null: as the string model has it. */
  centroidHz: nullable(number([60, 12_000], { about: 'Brightness of a normal strum, Hz.' })),
  /** Of a normal strum, dBFS in the third octaves of ISO 266 from 25 Hz on. */
  bands: optional(
    list(nullable(number([-200, 0])), THIRD_OCTAVES.length, {
      least: THIRD_OCTAVES.length,
      none: `must hold ${THIRD_OCTAVES.length} levels, 25 Hz to 20 kHz.`,
    }),
  ),
  mains: choice([50, 60], { about: 'Hz of the mains that it hums with.' }),
  humDbfs: level,
  hissDbfs: level,
  pitch: optional(heardPitch),
  /** How its figures came: as the kind has them, typed, played, or from a file. */
  from: choice(['start', 'typed', 'played', 'file']),
  measuredOn: optional(day),
})

/** One position of the pickup switch, with its figures. */
export type PickupPosition = RecordOf<typeof positionRecord.fields>
export const positionFields = positionRecord.fields

const taper = choice(['linear', 'audio'])

const volumeRecord = record({ kohm: number([10, 2_000], { about: 'kΩ.' }), taper })
const bleedRecord = record({
  pf: number([50, 10_000], { about: 'pF.' }),
  /** kΩ beside or behind the capacitor; 0 for none. */
  kohm: number([0, 2_000], { about: 'kΩ beside or behind the capacitor; 0 for none.' }),
  way: choice(['beside', 'behind']),
})
const toneRecord = record({ kohm: number([10, 2_000], { about: 'kΩ.' }), nf: number([0.5, 200], { about: 'nF.' }), taper })
const cableRecord = record({
  metres: number([0, 50]),
  pfPerMetre: number([20, 400], { about: 'pF a metre.' }),
})

export const wiringFields = {
  volume: volumeRecord,
  /** Keeps the top while the volume goes down; null without one. */
  bleed: nullable(bleedRecord),
  tone: nullable(toneRecord),
  cable: cableRecord,
  /** What the guitar is plugged into. */
  inputKohm: number([10, 10_000], { about: 'Input of the device, kΩ.' }),
}
export const bleedFields = bleedRecord.fields
export const toneFields = toneRecord.fields
export const volumeFields = volumeRecord.fields
export const cableFields = cableRecord.fields

export const guitarFields = {
  name: text(60),
  /** Hz. */
  a4: number([400, 480], { about: 'Concert pitch: Hz of A4.' }),
  /** Low to high. */
  strings: list(stringRecord, 12, { least: 4, none: 'must hold 4 to 12 strings.' }),
  positions: list(positionRecord, MAX_POSITIONS, { least: 1, none: 'must hold at least one pickup position.' }),
  ...wiringFields,
}

const profileRecord = record(guitarFields)

/** A guitar: how it is tuned, wired and switched, and how loud, bright and noisy each position is. */
export type GuitarProfile = RecordOf<typeof guitarFields>
export const profileField = profileRecord

const documentRecord = record({
  format: constant(GUITAR_FORMAT),
  version: constant(GUITAR_VERSION),
  notes: text(10_000, { least: 0 }),
  ...guitarFields,
})

/** A guitar as it lies in the Kit. */
export type GuitarDocument = RecordOf<typeof documentRecord.fields>

/** @throws DocumentError naming the field and the reason */
export const readGuitar = (value: unknown): GuitarDocument => {
  const { $schema: _, ...document } = migrated(value, GUITAR_FORMAT, 'guitar', [])
  return readWith(documentRecord, document)
}

export const guitarSchema = (): Json => schemaOf(documentRecord, { $id: `urn:fulgor:guitar:${GUITAR_VERSION}`, title: 'Fulgor guitar' })

/** Knobs of a guitar, 0–10. */
export const knobField = number([0, 10], { about: 'Where the knob stands.' })
/** Index of a position. */
export const positionIndex = whole([0, MAX_POSITIONS - 1], { about: 'Position of the pickup switch, from 0.' })

/** The guitar of a document, without what only the Kit keeps. */
export function profileOf(document: GuitarDocument): GuitarProfile {
  const { format: _f, version: _v, notes: _n, ...profile } = document
  return profile
}

export const asDocument = (profile: GuitarProfile, notes = ''): GuitarDocument => ({
  format: GUITAR_FORMAT,
  version: GUITAR_VERSION,
  notes,
  ...profile,
})
