import {
  choice,
  DocumentError,
  fileHash,
  flag,
  id,
  list,
  matching,
  named,
  nullable,
  number,
  optional,
  record,
  refined,
  text,
  whole,
  type RecordOf,
} from '@fulgor/core/document'
import { FAMILIES } from '@fulgor/core/catalogue'
import { MAX_CONTROLS, MAX_TARGETS } from '../controls/description'

export const MAX_TAKES = 12

const deviceName = text(60)
const mark = number([-1_000, 1_000])
const NO_DAY = 'must be a day as YYYY-MM-DD.'

const takeRecord = record({
  id: id(),
  /** SHA-256 of the stored recording. */
  file: fileHash(),
  device: deviceName,
  /** YYYY-MM-DD. */
  date: refined(matching('^\\d{4}-\\d{2}-\\d{2}$', NO_DAY), (day, path) => {
    if (Number.isNaN(Date.parse(day))) throw new DocumentError(path, NO_DAY)
  }),
  note: text(500, { least: 0 }),
  /** Where the device's level control stood, in its own scale; null when the player did not say. */
  setting: nullable(mark),
})

export const takeFields = takeRecord.fields

/** A recording of the player's own device playing a snapshot. */
export type Take = RecordOf<typeof takeRecord.fields>

/** What one snapshot has been recorded as. */
export const snapshotTakeFields = {
  /** Recordings of the player's own device, oldest first; the last one counts. */
  takes: optional(
    list(
      named('take', () => takeRecord),
      MAX_TAKES,
      { ids: 'own' },
    ),
  ),
}

export const capacityField = record({
  /** Foot switches of one face of the board. */
  switches: whole([2, 12]),
  /** Banks of a page. */
  banks: whole([1, 8]),
  /** Whether a switch can do something else when it is held, or pressed twice. */
  hold: flag(),
  double: flag(),
  /** Whether two switches beside each other can do something else when they are pressed at once. */
  both: optional(flag()),
  pedals: whole([0, 4]),
  sources: whole([1, MAX_CONTROLS]),
  assignments: whole([1, MAX_TARGETS]),
  snapshots: whole([1, 8]),
  /** What one stage of a family takes of the device's processing, as its own display tells; what is not there is not known. */
  processing: optional(
    refined(
      list(
        record({
          family: choice(FAMILIES),
          percent: number([0, 100], { about: '% of the processing of the device.' }),
        }),
        FAMILIES.length,
      ),
      (costs, path) => {
        costs.forEach(({ family }, i) => {
          if (costs.findIndex((c) => c.family === family) !== i) throw new DocumentError(`${path}[${i}].family`, 'stands there twice.')
        })
      },
    ),
  ),
})

/** How much of everything the player's device holds. */
export type DeviceCapacity = RecordOf<typeof capacityField.fields>

export const capacityFields = capacityField.fields

const scaleFields = {
  name: deviceName,
  /** `db`: a mark is a dB; `share`: marks are proportional to the amplitude, as % are; `steps`: a mark is `stepDb` dB. */
  kind: choice(['db', 'share', 'steps'], { about: 'Marks are dB, proportional to the amplitude, or steps of some dB.' }),
  min: mark,
  max: mark,
  /** dB that one mark is worth, with `steps`. */
  stepDb: number([0.01, 20], { about: 'dB of one mark, with steps.' }),
}

/** How the level control of the player's device is marked, and what it does. */
export type DeviceScale = RecordOf<typeof scaleFields>

const deviceRecord = record({
  ...scaleFields,
  capacity: optional(capacityField),
  /** Id of the device in the Kit that this is a copy of. */
  kit: optional(text(40)),
})

/** The player's device: how its level control is marked, and what it holds. */
export type DeviceProfile = RecordOf<typeof deviceRecord.fields>

export const deviceFields = deviceRecord.fields

export const deviceField = refined(deviceRecord, ({ min, max }, path) => {
  if (!(max > min)) throw new DocumentError(`${path}.max`, 'must lie above the lowest mark.')
})
