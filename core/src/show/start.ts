import {
  SHOW_FORMAT,
  SHOW_VERSION,
  type Feet,
  type NeededSound,
  type RunningOrder,
  type Show,
  type Song,
  type SongPart,
} from './description'

export const FEET: Feet = { pressMs: 350, stepMs: 80, tapMs: 400 }

export const blankOrder = (id: string, name: string): RunningOrder => ({ id, name, day: null, time: null, venue: '', items: [] })

export const blankShow = (name: string): Show => ({
  format: SHOW_FORMAT,
  version: SHOW_VERSION,
  name,
  notes: '',
  use: 'show',
  school: 'cabinet',
  device: null,
  sounds: [],
  songs: [],
  orders: [blankOrder('o1', 'Whole show')],
  feet: FEET,
  gapMs: 200,
  locked: {},
  checks: [],
  desk: { outputs: 'mono', inEar: '', notes: '' },
})

export const blankSound = (id: string, name: string): NeededSound => ({
  id,
  name,
  song: '',
  part: '',
  role: 'clean',
  tempo: null,
  guitar: null,
  place: null,
  reference: null,
  words: '',
  priority: 'must',
  answer: null,
  steps: {},
})

export const blankSong = (id: string, name: string): Song => ({
  id,
  name,
  tempo: null,
  metre: { beats: 4, unit: 4 },
  counted: 'beats',
  key: '',
  tuning: '',
  guitar: null,
  notes: '',
  parts: [],
})

/** A part behind the last one: eight bars, or half a minute. */
export function nextPart({ parts, metre, counted }: Song, id: string, name: string): SongPart {
  const at = Math.max(0, ...parts.map((p) => p.at + p.length))
  const length = counted === 'beats' ? 8 * metre.beats : 30
  return { id, name, at, length, sound: parts.at(-1)?.sound ?? null, sung: false, handsFull: false, moves: [] }
}
