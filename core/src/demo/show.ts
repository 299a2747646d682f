import {
  blankOrder,
  blankShow,
  blankSong,
  blankSound,
  type Answer,
  type Move,
  type NeededSound,
  type Show,
  type Song,
  type SongPart,
} from '@fulgor/core/show'

const PIT = 'demo-pit-main'
const HARBOUR = 'demo-harbour-clean'
const pit = (snapshot: string): Answer => ({ preset: PIT, snapshot })
const harbour = (snapshot: string): Answer => ({ preset: HARBOUR, snapshot })

interface Bars {
  readonly name: string
  readonly bars: number
  readonly sound: Answer | null
  readonly sung?: boolean
  readonly handsFull?: boolean
  readonly moves?: readonly Move[]
}
const bars = (name: string, count: number, sound: Answer | null, more: Partial<Bars> = {}): Bars => ({ name, bars: count, sound, ...more })
const SUNG = { sung: true }
/** The drive goes on over a sound that is stored without it: no snapshot has this. */
const driven: Move = { do: 'stage', stage: 'drive', at: 0, on: true }
const TAP: Move = { do: 'tap', at: 0 }

const song = (id: string, name: string, tempo: number, beats: number, rows: readonly Bars[], more: Partial<Song> = {}): Song => {
  let at = 0
  const parts = rows.map(({ name: part, bars: count, sound, sung = false, handsFull = false, moves = [] }, i): SongPart => {
    const made = { id: `${id}-${i + 1}`, name: part, at, length: count * beats, sound, sung, handsFull, moves }
    at += count * beats
    return made
  })
  return { ...blankSong(id, name), tempo, metre: { beats, unit: 4 }, guitar: 'demo-double-cut', parts, ...more }
}

const swell = (at: number, length: number): Move => ({ do: 'pedal', control: 'pedal2', at, length, from: 0, to: 1 })
const delayIn = (at: number, length: number): Move => ({ do: 'pedal', control: 'pedal1', at, length, from: 0, to: 1 })

const songs: readonly Song[] = [
  song(
    'overture',
    'Overture',
    96,
    4,
    [
      bars('Curtain', 16, pit('overture')),
      bars('Road theme', 24, pit('strum')),
      bars('Swell', 22, pit('finale'), { moves: [delayIn(40, 32)] }),
    ],
    { key: 'E minor' },
  ),
  song(
    'brine',
    'Brine and Bread',
    112,
    4,
    [
      bars('Verse', 28, pit('strum')),
      bars('Refrain, sung', 24, pit('strum'), { sung: true, moves: [driven] }),
      bars('Verse, sung', 24, pit('strum'), SUNG),
      bars('Last refrain, sung', 8, pit('strum'), { sung: true, moves: [driven] }),
    ],
    { key: 'G' },
  ),
  song(
    'waltz',
    'Ferryman’s Waltz',
    138,
    3,
    [bars('Crossing', 72, pit('lullaby'), { moves: [TAP] }), bars('Bridge', 59, pit('overture'), SUNG)],
    { key: 'D' },
  ),
  song(
    'lanterns',
    'Lanterns Out',
    66,
    4,
    [bars('Verse', 28, pit('lullaby'), { moves: [swell(32, 64)] }), bars('Humming', 21, pit('overture'), SUNG)],
    { key: 'A minor' },
  ),
  song(
    'market',
    'Market Morning',
    104,
    4,
    [bars('Stalls', 20, harbour('verse')), bars('Hawkers, sung', 28, harbour('bridge'), SUNG), bars('Stalls again', 16, harbour('verse'))],
    { key: 'C', guitar: 'demo-plank' },
  ),
  song(
    'chase',
    'The Chase',
    168,
    4,
    [
      bars('Alarm', 30, pit('chase'), { moves: [TAP] }),
      bars('Dunes', 42, pit('strum'), { moves: [driven] }),
      bars('Cliff', 1, pit('chase')),
      bars('Fall', 36, pit('strum'), { moves: [driven] }),
      bars('Hush', 28, pit('lullaby'), { handsFull: true }),
    ],
    { key: 'B minor' },
  ),
  song(
    'storm',
    'Storm over the Pans',
    84,
    4,
    [bars('Wind', 20, pit('strum')), bars('Solo', 23, pit('storm'), { moves: [delayIn(0, 24)] }), bars('Wreck', 20, pit('chase'))],
    { key: 'E minor' },
  ),
  song(
    'letter',
    'Letter from the Coast',
    72,
    4,
    [bars('Reading', 16, harbour('bridge')), bars('Answer, sung', 24, harbour('verse'), SUNG)],
    { key: 'F', guitar: 'demo-plank' },
  ),
  song(
    'toll',
    'Toll Bridge',
    120,
    4,
    [
      bars('Patter, sung', 32, pit('strum'), SUNG),
      bars('Riot, sung', 16, pit('strum'), { sung: true, moves: [driven] }),
      bars('Lead', 16, pit('storm')),
      bars('Patter, sung', 24, pit('strum'), SUNG),
    ],
    { key: 'A' },
  ),
  song(
    'salt',
    'Salt in the Wound',
    92,
    4,
    [
      bars('Verse, sung', 24, pit('overture'), SUNG),
      bars('Refrain, sung', 16, pit('chase'), SUNG),
      bars('Verse, sung', 24, pit('overture'), SUNG),
    ],
    { key: 'C minor' },
  ),
  song(
    'lull',
    'Lullaby for a Mule',
    60,
    3,
    [bars('Cradle', 32, pit('lullaby'), { moves: [swell(0, 24)] }), bars('Stable, sung', 24, pit('lullaby'), SUNG)],
    {
      key: 'G',
    },
  ),
  song(
    'road',
    'The Salt Road',
    104,
    4,
    [bars('Hymn', 28, pit('overture')), bars('Full company, sung', 34, pit('finale'), SUNG), bars('Last bars', 14, pit('storm'))],
    { key: 'E minor' },
  ),
  song('bows', 'Bows', 120, 2, [bars('Walk-on', 52, pit('strum'), { moves: [driven] }), bars('Playout', 66, pit('finale'))], { key: 'E' }),
  song('scene', 'Scene change, tide', 90, 4, [bars('Under dialogue', 45, harbour('bridge'))], {
    counted: 'time',
    parts: [
      { id: 'scene-1', name: 'Under dialogue', at: 0, length: 75, sound: harbour('bridge'), sung: false, handsFull: true, moves: [] },
    ],
    guitar: 'demo-plank',
  }),
]

const cued = (...rows: readonly (readonly [song: string, cue: string, gap: number])[]) =>
  rows.map(([id, cue, gap]) => ({ song: id, cue, gap }))

const sound = (id: string, name: string, role: NeededSound['role'], words: string, more: Partial<NeededSound> = {}): NeededSound => ({
  ...blankSound(id, name),
  role,
  words,
  guitar: { kit: 'demo-double-cut', position: 0 },
  place: 'demo-house-pa-mono',
  ...more,
})

const salt: Show = {
  ...blankShow('The Salt Road'),
  notes: 'Pit guitar. The house is mono; the refrains are sung by the band.',
  device: 'demo-pit-rack',
  sounds: [
    sound('overture', 'Overture clean', 'clean', 'open, some hall, nothing repeats', {
      song: 'Overture',
      part: 'Curtain',
      tempo: 96,
      answer: pit('overture'),
    }),
    sound('strum', 'Pit strum', 'edge', 'dry, out of the singers’ way', {
      song: 'Brine and Bread',
      part: 'Verse',
      tempo: 112,
      answer: pit('strum'),
    }),
    sound('strumdrive', 'Strum with drive', 'crunch', 'the same, with teeth, under the refrain', {
      song: 'Brine and Bread',
      part: 'Refrain',
      tempo: 112,
    }),
    sound('storm', 'Storm lead', 'high-gain', 'sings over the band, echoes by pedal', {
      song: 'Storm over the Pans',
      part: 'Solo',
      tempo: 84,
      answer: pit('storm'),
    }),
    sound('lullaby', 'Lullaby', 'ambience', 'air, long hall, swells', {
      song: 'Lanterns Out',
      part: 'Verse',
      tempo: 66,
      answer: pit('lullaby'),
    }),
    sound('chase', 'Chase', 'crunch', 'tight, stops dead', { song: 'The Chase', part: 'Alarm', tempo: 168, answer: pit('chase') }),
    sound('finale', 'Finale', 'crunch', 'wide as one guitar can be in mono', {
      song: 'The Salt Road',
      part: 'Full company',
      tempo: 104,
      answer: pit('finale'),
    }),
    sound('market', 'Market funk', 'clean', 'dry funk, no reverb', {
      song: 'Market Morning',
      part: 'Stalls',
      tempo: 104,
      guitar: { kit: 'demo-plank', position: 1 },
      answer: harbour('verse'),
    }),
    sound('letter', 'Letter', 'ambience', 'far away, on the light guitar', {
      song: 'Letter from the Coast',
      part: 'Reading',
      tempo: 72,
      guitar: { kit: 'demo-plank', position: 3 },
      priority: 'should',
      answer: harbour('bridge'),
    }),
    sound('steel', 'Steel-string for the hymn', 'acoustic', 'as if on a steel-string; only if it fits', {
      song: 'The Salt Road',
      part: 'Hymn',
      tempo: 104,
      guitar: { kit: 'demo-steel-string', position: 0 },
      priority: 'could',
    }),
  ],
  songs,
  orders: [
    {
      ...blankOrder('evening', 'Evening'),
      day: '2026-12-11',
      time: '19:30',
      venue: 'Harbour Hall, Ostmark',
      items: cued(
        ['overture', '1', 0],
        ['brine', '3', 40],
        ['waltz', '5', 55],
        ['market', '6', 30],
        ['lanterns', '7', 60],
        ['chase', '9', 25],
        ['scene', '10', 5],
        ['letter', '10a', 10],
        ['storm', '11', 45],
        ['toll', '12', 50],
        ['salt', '13', 35],
        ['lull', '13a', 20],
        ['road', '14', 40],
        ['bows', '15', 15],
      ),
    },
    {
      ...blankOrder('school', 'School matinée'),
      day: '2026-12-12',
      time: '11:00',
      venue: 'Harbour Hall, Ostmark',
      items: cued(['overture', '1', 0], ['brine', '2', 30], ['chase', '3', 30], ['storm', '4', 30], ['road', '5', 30], ['bows', '6', 10]),
    },
  ],
  checks: [
    { words: 'Baritone and its strap are in the pit', done: false },
    { words: 'Spare cable behind the music desk', done: false },
  ],
  desk: { outputs: 'mono', inEar: 'Band without the guitar, singers on top, click left', notes: 'One line, from the floor unit.' },
}

const tide: Show = {
  ...blankShow('Low Tide Signals'),
  use: 'session',
  school: 'amp',
  sounds: [
    {
      ...blankSound('theme', 'Theme lead'),
      role: 'high-gain',
      song: 'Low Tide',
      part: 'Theme',
      tempo: 108,
      words: 'bright repeats are part of the part',
      guitar: { kit: 'demo-double-cut', position: 0 },
      place: 'demo-headphones-at-night',
      answer: { preset: 'demo-tide-lead', snapshot: 'theme' },
    },
    {
      ...blankSound('wall', 'Wall'),
      role: 'crunch',
      song: 'Last Signal',
      part: 'Second half',
      tempo: 92,
      words: 'two amps left and right',
      answer: { preset: 'demo-tide-wall', snapshot: 'full' },
    },
    {
      ...blankSound('below', 'Low line under the wall'),
      role: 'bass-layer',
      song: 'Last Signal',
      part: 'Second half',
      tempo: 92,
      words: 'an octave below, nothing above 1 kHz',
      guitar: { kit: 'demo-baritone', position: 0 },
      priority: 'should',
    },
  ],
  orders: [blankOrder('session', 'Session')],
}

/** The brief and the plan of the show, and the brief of the EP. */
export const demoShows: readonly { readonly id: string; readonly document: Show }[] = [
  { id: 'demo-salt-road', document: salt },
  { id: 'demo-low-tide', document: tide },
]
