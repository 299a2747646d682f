import type { Field, Fields, Json } from '@fulgor/core/document'
import { GUITAR_VERSION, guitarSchema, readGuitar, restDbfs, tuningName, type GuitarDocument } from '@fulgor/core/guitar'
import { PLACE_VERSION, placeSchema, readPlace, type Place } from '@fulgor/core/place'
import {
  DEVICE_VERSION,
  deviceSchema,
  PRESET_VERSION,
  presetSchema,
  readDevice,
  readPreset,
  stagesOf,
  type DeviceDocument,
  type Preset,
} from '@fulgor/core/preset'
import { presetsOf, readShow, SHOW_VERSION, showSchema, showUses, type Show } from '@fulgor/core/show'
import { RECORDING_VERSION, readRecording, recordingId, recordingSchema, type Recording } from '@fulgor/core/recording'
import { deviceListed, guitarListed, placeListed, presetListed, recordingListed, showListed } from './messages'

/**
 * A kind of document: all that is needed to store, list, search and serve it. A new kind is one entry in {@link KINDS}.
 */
export interface DocumentKind<T = unknown> {
  /** Names it in the database; never changes. */
  readonly kind: string
  /** Its path below `/api/`. */
  readonly path: string
  /** One of it, as in “Preset “x” is not on the shelf.”. */
  readonly title: string
  /** Format version that it is written in; older ones are migrated when they are read. */
  readonly version: number
  /** @throws DocumentError naming the field and the reason */
  read(value: unknown): T
  /** The published JSON Schema. */
  schema(): Json
  readonly name: (document: T) => string
  readonly tags: (document: T) => readonly string[]
  /** Free text that a search looks through, besides name and tags. */
  readonly text: (document: T) => string
  /** What a list tells besides. */
  readonly listed: Fields
  readonly list: (document: T) => Readonly<Record<string, unknown>>
}

/** The document as a field of an answer: its own schema stands among the components. */
export const documentField = <T>(kind: DocumentKind<T>): Field<T> => ({
  read: (value) => kind.read(value),
  schema: () => ({ $ref: `#/components/schemas/${kind.title}` }),
})

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
  list: (preset) => ({
    tempo: preset.tempo,
    stageCount: stagesOf(preset.chain).length,
    snapshotCount: preset.snapshots.length,
    uses: usesOf(preset),
  }),
}

/** Ids of what a preset uses of the Kit. */
function usesOf({ guitars, device, riff, snapshots, layers = [], reference }: Preset): string[] {
  const riffs = [riff, ...snapshots.flatMap((s) => s.riff ?? []), ...layers.map((l) => l.riff)]
  // an own riff is named by its file, a shipped one by its id
  const own = reference === undefined ? [] : [reference]
  return [...new Set([...own, ...[...guitars, device].flatMap((of) => of?.kit ?? []), ...riffs.map(({ id }) => recordingId(id))])]
}

export const guitarKind: DocumentKind<GuitarDocument> = {
  kind: 'guitar',
  path: 'guitars',
  title: 'Guitar',
  version: GUITAR_VERSION,
  read: readGuitar,
  schema: guitarSchema,
  name: (guitar) => guitar.name,
  tags: () => [],
  text: (guitar) => guitar.notes,
  listed: guitarListed,
  list: ({ strings, positions }) => ({
    tuning: tuningName(strings.map((s) => s.note)),
    positionCount: positions.length,
    levels: { ...positions[0].hard, restDbfs: restDbfs(positions[0]) },
  }),
}

export const placeKind: DocumentKind<Place> = {
  kind: 'place',
  path: 'places',
  title: 'Place',
  version: PLACE_VERSION,
  read: readPlace,
  schema: placeSchema,
  name: (place) => place.name,
  tags: () => [],
  text: (place) => place.notes,
  listed: placeListed,
  list: ({ level, mono, backing }) => ({ level, mono, uses: backing ? [backing.recording] : [] }),
}

export const recordingKind: DocumentKind<Recording> = {
  kind: 'recording',
  path: 'recordings',
  title: 'Recording',
  version: RECORDING_VERSION,
  read: readRecording,
  schema: recordingSchema,
  name: (recording) => recording.name,
  tags: () => [],
  text: (recording) => recording.notes,
  listed: recordingListed,
  list: ({ use, file, seconds, part, tempo, made }) => ({ use, file, seconds, part, tempo, made }),
}

export const deviceKind: DocumentKind<DeviceDocument> = {
  kind: 'device',
  path: 'devices',
  title: 'Device',
  version: DEVICE_VERSION,
  read: readDevice,
  schema: deviceSchema,
  name: (device) => device.name,
  tags: () => [],
  text: (device) => device.notes,
  listed: deviceListed,
  list: ({ capacity: { switches, pedals } }) => ({ switches, pedals }),
}

export const showKind: DocumentKind<Show> = {
  kind: 'show',
  path: 'shows',
  title: 'Show',
  version: SHOW_VERSION,
  read: readShow,
  schema: showSchema,
  name: (show) => show.name,
  tags: () => [],
  text: (show) => [show.notes, ...show.songs.map((s) => s.name), ...show.sounds.map((s) => s.name)].join(' '),
  listed: showListed,
  list: (show) => ({
    use: show.use,
    soundCount: show.sounds.length,
    openCount: show.sounds.filter((s) => s.answer === null).length,
    songCount: show.songs.length,
    uses: [...presetsOf(show), ...showUses(show)].slice(0, 200),
  }),
}

/** Every kind of document that there is. */
export const KINDS = [presetKind, guitarKind, placeKind, recordingKind, deviceKind, showKind] as readonly DocumentKind[]
