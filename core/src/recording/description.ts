import {
  choice,
  constant,
  DocumentError,
  fileHash,
  list,
  migrated,
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
  type Range,
  type RecordOf,
} from '@fulgor/core/document'
import { positionIndex } from '@fulgor/core/guitar'

export const RECORDING_FORMAT = 'fulgor.recording'
export const RECORDING_VERSION = 1

/** Tempo of whatever has one, quarter notes a minute. */
export const TEMPO_RANGE: Range = [20, 400]
/** Shortest loop, s. */
export const LEAST_PART_S = 0.1

const partRecord = record({
  from: number([0, 3_600], { about: 's from the start of the file.' }),
  to: number([0, 3_600], { about: 's from the start of the file.' }),
})
/** A stretch of a recording, s. */
export type Part = RecordOf<typeof partRecord.fields>

export const partField = refined(partRecord, ({ from, to }, path) => {
  if (to - from < LEAST_PART_S) throw new DocumentError(`${path}.to`, `must lie ${LEAST_PART_S} s or more behind its start.`)
})

const madeRecord = record({
  guitar: text(40),
  position: positionIndex,
})

export const RECORDING_USES = ['riff', 'backing', 'reference'] as const
export type RecordingUse = (typeof RECORDING_USES)[number]

/** Which of a recording's sides is looked at. */
export const VIEWS = ['mid', 'side', 'left', 'right'] as const
export type View = (typeof VIEWS)[number]

/** Stretches of a reference at most, and s that they may last together. */
export const MOST_MARKS = 8
export const MOST_MARKED_S = 120
/** Longest recording of each use, s. */
export const LONGEST_S: Record<RecordingUse, number> = { riff: 120, backing: 600, reference: 1_200 }

/** What a list tells of a recording, too. */
export const recordingTold = {
  use: choice(RECORDING_USES, { about: 'A dry riff to play on, a band to play along with, or a recording to come near to.' }),
  /** SHA-256 of the stored file. */
  file: fileHash(),
  seconds: number([0, 3_600], { about: 'Length of the file.' }),
  /** What is looped; null: all of it. */
  part: nullable(partField),
  tempo: nullable(number(TEMPO_RANGE, { about: 'Quarter notes a minute, of what is looped.' })),
  /** Guitar of the Kit that a riff was recorded on; null: not told. */
  made: nullable(madeRecord),
}

export const recordingFields = {
  name: text(120),
  notes: text(10_000, { least: 0 }),
  ...recordingTold,
  bars: nullable(whole([1, 999], { about: 'Bars in what is looped.' })),
  beats: whole([2, 12], { about: 'Beats of a bar.' }),
  /** Stretches of a reference that count, in the order of time; none: all of it. */
  marks: optional(list(partField, MOST_MARKS)),
  /** Which sides of a reference count; both together where nothing is said. */
  view: optional(choice(VIEWS, { about: 'The sides’ mean, half their difference, or one of them.' })),
}

const recordingRecord = refined(
  record({ format: constant(RECORDING_FORMAT), version: constant(RECORDING_VERSION), ...recordingFields }),
  ({ part, marks = [], seconds }, path) => {
    const field = (name: string) => (path === '' ? name : `${path}.${name}`)
    const inside = (of: Part, name: string) => {
      if (of.to > seconds + 1e-6)
        throw new DocumentError(field(`${name}.to`), `must lie within the file, which is ${seconds.toFixed(2)} s long.`)
    }
    if (part) inside(part, 'part')
    marks.forEach((mark, k) => {
      inside(mark, `marks[${k}]`)
      if (k > 0 && mark.from < marks[k - 1].to) throw new DocumentError(field(`marks[${k}].from`), 'must lie behind the stretch before it.')
    })
    if (marks.reduce((sum, { from, to }) => sum + to - from, 0) > MOST_MARKED_S + 1e-6)
      throw new DocumentError(field('marks'), `may last ${MOST_MARKED_S} s together.`)
  },
)

/** A dry riff of the player's own, or a backing: a stored file, what of it is looped, and what is known of it. */
export type Recording = RecordOf<typeof recordingFields> & {
  readonly format: typeof RECORDING_FORMAT
  readonly version: typeof RECORDING_VERSION
}

/** @throws DocumentError naming the field and the reason */
export const readRecording = (value: unknown): Recording => {
  const { $schema: _, ...document } = migrated(value, RECORDING_FORMAT, 'recording', [])
  return readWith(recordingRecord, document)
}

export const recordingSchema = (): Json =>
  schemaOf(recordingRecord, { $id: `urn:fulgor:recording:${RECORDING_VERSION}`, title: 'Fulgor recording' })

/** A recording as it begins: all of the file is looped, and nothing else is known. */
export const newRecording = (use: RecordingUse, name: string, file: string, seconds: number): Recording => ({
  format: RECORDING_FORMAT,
  version: RECORDING_VERSION,
  name,
  notes: '',
  use,
  file,
  seconds,
  part: null,
  tempo: null,
  made: null,
  bars: null,
  beats: 4,
})

/** Id of the recording of a file: a file is in the Kit once. */
export const recordingId = (hash: string): string => hash.slice(0, 40)
