import { id, list, named, number, optional, record, table, text, type RecordOf } from '@fulgor/core/document'
import { guitarFields, knobField, positionIndex } from '@fulgor/core/guitar'

/** Guitars that one preset is set up for. */
export const MAX_GUITARS = 8

const decibels = number([-24, 24])
const hertz = number([20, 20_000])
const gain = number([-18, 18])

const shelfRecord = record({ hz: hertz, db: gain })
const bellRecord = record({ hz: hertz, db: gain, q: number([0.2, 8]) })

const fitRecord = record({
  /** Position of the guitar that it is for. */
  position: positionIndex,
  /** dB at the input. */
  trim: decibels,
  low: optional(shelfRecord),
  bell: optional(bellRecord),
  high: optional(shelfRecord),
  /** dB that the thresholds of gates are moved by, by stage and snapshot. */
  gates: table(table(number([-60, 60]))),
  /** dB that snapshots are trimmed by, by snapshot. */
  trims: table(number([-30, 30])),
})

/** What one guitar needs of a preset that was made on another one: kept beside the base, not over it. */
export type Fit = RecordOf<typeof fitRecord.fields>

const usedRecord = record({
  id: id(),
  /** The guitar in the Kit that it was taken from. */
  kit: optional(text(40)),
  ...guitarFields,
  fits: optional(list(fitRecord, 12)),
})

/** A guitar of a preset: its own copy, so that it sounds where the Kit does not have it. */
export type UsedGuitar = RecordOf<typeof usedRecord.fields>

const handRecord = record({
  /** Id of one of the preset's guitars. */
  guitar: text(40),
  position: positionIndex,
  volume: knobField,
  tone: knobField,
})

/** What plays: a guitar, its switch and its knobs. */
export type HandSetting = RecordOf<typeof handRecord.fields>

const ownHandRecord = record({
  guitar: optional(text(40)),
  position: optional(positionIndex),
  volume: optional(knobField),
  tone: optional(knobField),
})

/** What of it one snapshot has for itself. */
export type OwnHand = RecordOf<typeof ownHandRecord.fields>

export const guitarsFields = {
  /** The first one is what the preset was made on. */
  guitars: list(
    named('guitar', () => usedRecord),
    MAX_GUITARS,
    { least: 1, none: 'must hold the guitar that the preset was made on.', ids: 'own' },
  ),
  /** Position of the first guitar that it was made on. */
  madeOn: positionIndex,
  hand: handRecord,
}

/** What one snapshot says of the guitar. */
export const snapshotHandFields = {
  hand: optional(ownHandRecord),
}
