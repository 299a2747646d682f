import type { ResponseReport } from '@fulgor/core/cabinet'
import { MAX_POSITIONS } from '@fulgor/core/guitar'
import { placeDocFields } from '@fulgor/core/place'
import {
  choice,
  flag,
  list,
  nullable,
  number,
  optional,
  record,
  text,
  whole,
  type Field,
  type Fields,
  type RecordOf,
} from '@fulgor/core/document'
import { recordingTold } from '@fulgor/core/recording'
import { MAX_SONGS, MAX_SOUNDS, showFields } from '@fulgor/core/show'
import { capacityFields, MAX_SNAPSHOTS, MAX_STAGES, presetFields, type Preset } from '@fulgor/core/preset'

/*
 * What server and page tell each other: types of the page and schemas of the server's OpenAPI description come from here.
 */

/** Days that a document stays in the bin before it is gone. */
export const BIN_DAYS = 30

const MOST = Number.MAX_SAFE_INTEGER
const ms = whole([0, MOST], { about: 'ms since 1970.' })
const count = whole([0, MOST])
const anyText = text(MOST, { least: 0 })

/** What a list tells of every document. */
const summaryFields = {
  id: text(40),
  name: anyText,
  tags: list(anyText, 1_000),
  revision: whole([1, MOST], { about: 'Counts up with every write.' }),
  createdAt: ms,
  updatedAt: ms,
  deletedAt: { ...nullable(ms), about: 'When it was put into the bin; null while it is on the shelf.' },
}

/** Ids of what it uses of the Kit. */
const usesField = optional(list(text(40), 200))

/** What a list tells of a preset besides. */
export const presetListed = {
  tempo: number(presetFields.tempo.range),
  stageCount: whole([0, MAX_STAGES]),
  snapshotCount: whole([1, MAX_SNAPSHOTS]),
  uses: usesField,
}

/** What a list tells of a guitar besides. */
export const guitarListed = {
  /** Its strings, low to high, or the name of that tuning. */
  tuning: anyText,
  positionCount: whole([1, MAX_POSITIONS]),
  /** Of its first position: a hard strum, and hum and hiss together at rest; what was stored before it was told has none. */
  levels: optional(record({ peakDbfs: number([-140, 0]), rmsDbfs: number([-140, 0]), restDbfs: number([-140, 10]) })),
}

export type GuitarSummary = RecordOf<typeof summaryFields & typeof guitarListed>

/** What a list tells of a listening place besides. */
export const placeListed = {
  level: number(placeDocFields.level.range, { about: 'dB SPL that −18 LUFS gives there.' }),
  mono: flag(),
  uses: usesField,
}

/** What a list tells of a recording besides. */
export const recordingListed = recordingTold
export type RecordingSummary = RecordOf<typeof summaryFields & typeof recordingListed>

/** What a list tells of a device besides. */
export const deviceListed = {
  switches: whole(capacityFields.switches.range),
  pedals: whole(capacityFields.pedals.range),
}
export type DeviceSummary = RecordOf<typeof summaryFields & typeof deviceListed>

/** What a list tells of a show besides. */
export const showListed = {
  use: showFields.use,
  soundCount: whole([0, MAX_SOUNDS]),
  /** Sounds that nothing answers yet. */
  openCount: whole([0, MAX_SOUNDS]),
  songCount: whole([0, MAX_SONGS]),
  uses: usesField,
}
export type ShowSummary = RecordOf<typeof summaryFields & typeof showListed>

export type PlaceSummary = RecordOf<typeof summaryFields & typeof placeListed>

export type PresetSummary = RecordOf<typeof summaryFields & typeof presetListed>

const tagCount = record({ tag: anyText, count })

/** A page of a list; `next` asks for what comes behind it, null at the end. */
export const documentListField = <F extends Fields>(listed: F) =>
  record({
    items: list(record({ ...summaryFields, ...listed }), 500),
    total: count,
    tags: list(tagCount, 100_000),
    next: nullable(anyText),
  })

export interface DocumentList<S> {
  readonly items: readonly S[]
  readonly total: number
  readonly tags: readonly { readonly tag: string; readonly count: number }[]
  readonly next: string | null
}
export type PresetList = DocumentList<PresetSummary>

const versionFields = {
  number: whole([1, MOST]),
  kind: choice(['saved', 'auto'], { about: '`saved` by the player, `auto` by the autosave.' }),
  note: anyText,
  revision: whole([1, MOST]),
  createdAt: ms,
}
export const versionField = record(versionFields)
export type VersionSummary = RecordOf<typeof versionFields>

export const versionWholeField = <T>(document: Field<T>) => record({ ...versionFields, document })

/** A stored document with the last version that the player saved. */
export const storedField = <F extends Fields, T>(listed: F, document: Field<T>) =>
  record({
    ...summaryFields,
    ...listed,
    document,
    saved: nullable(record({ number: versionFields.number, createdAt: ms, document })),
  })

export interface SavedVersion<T = Preset> {
  readonly number: number
  readonly createdAt: number
  readonly document: T
}

export type Stored<T, S> = S & { readonly document: T; readonly saved: SavedVersion<T> | null }
export type StoredPreset = Stored<Preset, PresetSummary>

export interface UpdateRequest<T = Preset> {
  readonly document: T
  readonly baseRevision: number
  readonly save: boolean
  readonly note?: string
  /** Names the tab: one tab's autosaves never replace another's. */
  readonly writer?: string
}

export const updateAnswerField = record({ id: text(40), revision: whole([1, MOST]), updatedAt: ms, version: whole([1, MOST]) })
export type UpdateAnswer = RecordOf<typeof updateAnswerField.fields>

export const besideField = record({ id: text(40) })

const fileFields = { hash: text(64), name: anyText, bytes: count, sampleRate: count, channels: count, frames: count, createdAt: ms }

export const assetField = record({ ...fileFields, kind: choice(['riff', 'take', 'backing', 'reference']) })
export type SoundAsset = RecordOf<typeof assetField.fields>

const decibels = number([-MOST, MOST])

export const responseAssetField = record({
  ...fileFields,
  path: { ...anyText, about: 'Folder that it came in.' },
  tags: list(anyText, 1_000),
  favourite: flag(),
  bits: count,
  durationS: number([0, MOST]),
  peakDbfs: decibels,
  dc: decibels,
  onsetSamples: count,
  polarity: choice(['positive', 'negative']),
  lengthMs: number([0, MOST]),
  clipped: count,
  loudnessDb: decibels,
  centroidHz: number([0, MOST]),
  bands: list(decibels, 100),
  fingerprint: anyText,
})

/** An impulse response on file, with what was read of it. */
export interface ResponseAsset extends ResponseReport {
  readonly hash: string
  readonly name: string
  /** Folder that it came in. */
  readonly path: string
  readonly tags: readonly string[]
  readonly favourite: boolean
  readonly bytes: number
  readonly createdAt: number
}

/** What became of one file of an upload. */
export type UploadedResponse =
  | { readonly path: string; readonly outcome: 'taken'; readonly hash: string }
  | { readonly path: string; readonly outcome: 'duplicate'; readonly of: string }
  | { readonly path: string; readonly outcome: 'refused'; readonly reason: string }

const fieldProblem = record({ field: anyText, reason: anyText })
export const errorField = record({ error: record({ message: anyText, fields: list(fieldProblem, 1_000) }) })

export interface ApiError {
  readonly error: {
    readonly message: string
    readonly fields: readonly { readonly field: string; readonly reason: string }[]
    /** With status 409: what is stored now. */
    readonly current?: Omit<StoredPreset, 'saved'>
  }
}
