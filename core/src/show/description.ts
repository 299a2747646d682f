import {
  choice,
  constant,
  DocumentError,
  flag,
  id,
  list,
  matching,
  migrated,
  named,
  nullable,
  number,
  readWith,
  record,
  refined,
  schemaOf,
  table,
  tagged,
  text,
  whole,
  type Json,
  type Of,
  type RecordOf,
} from '@fulgor/core/document'
import { positionIndex } from '@fulgor/core/guitar'
import { TEMPO_RANGE } from '@fulgor/core/recording'

export const SHOW_FORMAT = 'fulgor.show'
export const SHOW_VERSION = 1

export const MAX_SOUNDS = 200
export const MAX_SONGS = 400
export const MAX_PARTS = 60
export const MAX_MOVES = 24
export const MAX_ORDERS = 60

const reference = text(40)
const tempo = nullable(number(TEMPO_RANGE, { about: 'Quarter notes a minute; null: not told.' }))

/** What a sound is to be, and what it is begun from. */
export const SOUND_ROLES = ['clean', 'edge', 'crunch', 'high-gain', 'ambience', 'bass-layer', 'acoustic'] as const
export type SoundRole = (typeof SOUND_ROLES)[number]

export const PRIORITIES = ['must', 'should', 'could'] as const

const answerRecord = record({
  /** Id of a preset on the shelf. */
  preset: reference,
  snapshot: reference,
})
/** A snapshot of a preset on the shelf. */
export type Answer = RecordOf<typeof answerRecord.fields>

/** Where a step of the work stands, as the player said; what measurement finds is not kept. */
export const STEP_STATES = ['done', 'skipped'] as const
export type StepState = (typeof STEP_STATES)[number]

const soundRecord = record({
  id: id(),
  name: text(60),
  /** Of which song, and which part of it, in the player's words. */
  song: text(80, { least: 0 }),
  part: text(60, { least: 0 }),
  role: choice(SOUND_ROLES),
  tempo,
  /** A guitar of the Kit and its position. */
  guitar: nullable(record({ kit: reference, position: positionIndex })),
  /** A listening place of the Kit. */
  place: nullable(reference),
  /** A reference of the Kit. */
  reference: nullable(reference),
  words: text(400, { least: 0 }),
  priority: choice(PRIORITIES),
  answer: nullable(answerRecord),
  steps: table(choice(STEP_STATES)),
})
/** A sound that is needed, and what answers it. */
export type NeededSound = RecordOf<typeof soundRecord.fields>
export const soundFields = soundRecord.fields

const share = number([0, 1])
const count = number([0, 20_000])

const moves = {
  /** A source of the sound's preset goes from one position to another. */
  pedal: record({ do: constant('pedal'), control: reference, at: count, length: count, from: share, to: share }),
  /** One stage is switched by itself. */
  stage: record({ do: constant('stage'), stage: reference, at: count, on: flag() }),
  /** The tempo is tapped. */
  tap: record({ do: constant('tap'), at: count }),
}
const moveField = named('move', () => tagged('do', moves))
export type Move = Of<typeof moveField>

const partRecord = record({
  id: id(),
  name: text(60),
  /** Beats of the song's metre, or s where the song is counted by time, from its start. */
  at: count,
  length: number([0.01, 20_000]),
  /** What sounds; null: nothing is played. */
  sound: nullable(answerRecord),
  /** The player sings. */
  sung: flag(),
  /** Neither hand is free. */
  handsFull: flag(),
  /** `at` and lengths count from the start of the part. */
  moves: list(moveField, MAX_MOVES),
})
/** A part of a song: verse, refrain, solo. */
export type SongPart = RecordOf<typeof partRecord.fields>
export const partFields = partRecord.fields

const metreRecord = record({ beats: whole([1, 24]), unit: choice([1, 2, 4, 8, 16]) })
export type Metre = RecordOf<typeof metreRecord.fields>
export const metreFields = metreRecord.fields

const songRecord = record({
  id: id(),
  name: text(80),
  tempo,
  metre: metreRecord,
  /** Whether its parts are counted in beats or in s. */
  counted: choice(['beats', 'time'], { about: 'Parts are counted in beats of the metre, or in seconds.' }),
  key: text(24, { least: 0 }),
  tuning: text(60, { least: 0 }),
  /** A guitar of the Kit. */
  guitar: nullable(reference),
  notes: text(2_000, { least: 0 }),
  parts: list(
    named('part', () => partRecord),
    MAX_PARTS,
    { ids: 'own' },
  ),
})
export type Song = RecordOf<typeof songRecord.fields>
export const songFields = songRecord.fields

const NO_DAY = 'must be a day as YYYY-MM-DD.'
const dayField = refined(matching('^\\d{4}-\\d{2}-\\d{2}$', NO_DAY), (day, path) => {
  const at = new Date(`${day}T00:00:00Z`)
  if (Number.isNaN(at.getTime()) || at.toISOString().slice(0, 10) !== day) throw new DocumentError(path, NO_DAY)
})

const itemRecord = record({
  /** Id of one of the songs. */
  song: reference,
  /** As the stage manager calls it. */
  cue: text(12, { least: 0 }),
  /** s until it begins, after the one before. */
  gap: number([0, 7_200]),
})
/** A song in a running order. */
export type OrderItem = RecordOf<typeof itemRecord.fields>
export const itemFields = itemRecord.fields

const orderRecord = record({
  id: id(),
  name: text(60),
  day: nullable(dayField),
  /** HH:MM, by the clock there. */
  time: nullable(matching('^([01]\\d|2[0-3]):[0-5]\\d$', 'must be a time as HH:MM.')),
  venue: text(120, { least: 0 }),
  items: list(itemRecord, MAX_SONGS),
})
/** A night: which songs are played, in which order. Several share the songs. */
export type RunningOrder = RecordOf<typeof orderRecord.fields>
export const orderFields = orderRecord.fields

const feetRecord = record({
  /** ms that one press takes, from the foot on the floor to the foot on the floor. */
  pressMs: number([100, 2_000]),
  /** ms more for every switch that the foot passes. */
  stepMs: number([0, 500]),
  /** Shortest ms between two taps that come out even. */
  tapMs: number([150, 1_500]),
})
/** What the player's feet can do; the values to begin with are common practice, no source. */
export type Feet = RecordOf<typeof feetRecord.fields>
export const feetFields = feetRecord.fields

const checkRecord = record({ words: text(160), done: flag() })

const deskRecord = record({
  outputs: choice(['mono', 'stereo']),
  inEar: text(400, { least: 0 }),
  notes: text(1_000, { least: 0 }),
})
export const deskFields = deskRecord.fields

export const showFields = {
  name: text(80),
  notes: text(10_000, { least: 0 }),
  use: choice(['show', 'session']),
  /** Where the work begins: at the cabinet, or at the amp. */
  school: choice(['cabinet', 'amp']),
  /** A device of the Kit that it is played on. */
  device: nullable(reference),
  sounds: list(
    named('sound', () => soundRecord),
    MAX_SOUNDS,
    { ids: 'own' },
  ),
  songs: list(
    named('song', () => songRecord),
    MAX_SONGS,
    { ids: 'own' },
  ),
  orders: list(
    named('order', () => orderRecord),
    MAX_ORDERS,
    { least: 1, none: 'must hold at least one running order.', ids: 'own' },
  ),
  feet: feetRecord,
  /** ms of silence while the device loads another preset. */
  gapMs: number([0, 10_000], { about: 'ms of silence while the device loads another preset.' }),
  /** Switches that a search for layouts leaves as they are: their ids, by preset. */
  locked: table(list(reference, 200)),
  /** What the player looks at before it begins, besides what Fulgor asks. */
  checks: list(checkRecord, 60),
  /** What the sound engineer is told. */
  desk: deskRecord,
}

const showRecord = record({ format: constant(SHOW_FORMAT), version: constant(SHOW_VERSION), ...showFields })

/** A show or session: the sounds that it needs, its songs, and the nights on which they are played. */
export type Show = RecordOf<typeof showRecord.fields>

const showField = refined(showRecord, ({ songs, orders }, path) => {
  const known = new Set(songs.map((s) => s.id))
  orders.forEach(({ items }, i) =>
    items.forEach(({ song }, k) => {
      const field = `orders[${i}].items[${k}].song`
      if (!known.has(song)) throw new DocumentError(path === '' ? field : `${path}.${field}`, `there is no song “${song}”.`)
    }),
  )
})

/** @throws DocumentError naming the field and the reason */
export const readShow = (value: unknown): Show => {
  const { $schema: _, ...document } = migrated(value, SHOW_FORMAT, 'show', [])
  return readWith(showField, document)
}

export const showSchema = (): Json => schemaOf(showField, { $id: `urn:fulgor:show:${SHOW_VERSION}`, title: 'Fulgor show' })
