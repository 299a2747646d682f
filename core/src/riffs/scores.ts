import type { Pluck } from './pluckedString'
import { openHz, type StringOffsets } from './strings'

/** A note in a score: time and length in quarter notes, pitch as a fret on a string (0 = lowest). */
interface Note {
  beat: number
  length: number
  string: number
  fret: number
  accent: number
  mute: number
  /** Fingers lie on the string: a stroke without a note. */
  dead?: boolean
  /** Beats after the stroke, semitones. */
  bend?: readonly (readonly [beats: number, semitones: number])[]
  /** From so many beats after the stroke on. */
  vibrato?: { from: number; cents: number }
  feedback?: boolean
}

const STRUM_BEATS = 0.0176
/** Of a finger on the neck, Hz (common practice, no source). */
const VIBRATO_HZ = 5.4

const note = (beat: number, length: number, string: number, fret: number, accent = 1, mute = 0): Note => ({
  beat,
  length,
  string,
  fret,
  accent,
  mute,
})

/** Strings that sound (−1 is silent), low to high. */
type Chord = readonly number[]

function strum(beat: number, length: number, chord: Chord, down: boolean, accent = 1, mute = 0): Note[] {
  const order = chord.map((fret, string) => ({ fret, string })).filter((s) => s.fret >= 0)
  if (!down) order.reverse()
  return order.map(({ fret, string }, i) => note(beat + i * STRUM_BEATS, length, string, fret, accent * (down ? 1 : 0.8), mute))
}
const dead = (notes: readonly Note[]): Note[] => notes.map((n) => ({ ...n, dead: true }))

const EM: Chord = [0, 2, 2, 0, 0, 0]
const C: Chord = [-1, 3, 2, 0, 1, 0]
const G: Chord = [3, 2, 0, 0, 0, 3]
const D: Chord = [-1, -1, 0, 2, 3, 2]
const SMALL: Chord = [-1, 7, 6, 7, 7, -1]
/** Root, fifth and octave on the three low strings. */
const power = (fret: number): Chord => [fret, fret + 2, fret + 2, -1, -1, -1]
const BARS = [0, 4, 8, 12]

function palmMuted(): Note[] {
  return BARS.flatMap((bar, i) => {
    const root = [0, 0, 3, 1][i]
    const chug = [0, 0.5, 0.75, 1, 1.5, 1.75, 2, 2.5].flatMap((b) => [note(bar + b, 0.24, 0, root, b % 1 === 0 ? 1 : 0.8, 0.85)])
    const hit = [note(bar + 3, 0.6, 0, root, 0.9, 0.2), note(bar + 3.01, 0.6, 1, root + 2, 0.9, 0.2)]
    return [...chug, ...hit]
  })
}

function openChords(): Note[] {
  return [EM, C, G, D].flatMap((chord, i) => {
    const bar = i * 4
    return [
      ...strum(bar, 1, chord, true),
      ...strum(bar + 1, 0.5, chord, true, 0.8),
      ...strum(bar + 1.5, 0.5, chord, false, 0.7),
      ...strum(bar + 2.5, 0.5, chord, false, 0.75),
      ...strum(bar + 3, 0.5, chord, true, 0.85),
      ...strum(bar + 3.5, 0.5, chord, false, 0.7),
    ]
  })
}

function leadLine(): Note[] {
  const line = [
    [0, 1.5, 4, 8],
    [1.5, 0.5, 4, 10],
    [2, 1, 5, 7],
    [3, 1, 5, 10],
    [4, 2, 5, 12],
    [6, 0.5, 5, 10],
    [6.5, 0.5, 5, 7],
    [7, 1, 4, 8],
    [8, 0.5, 4, 10],
    [8.5, 0.5, 4, 8],
    [9, 0.5, 3, 9],
    [9.5, 0.5, 3, 7],
    [10, 2, 3, 9],
    [12, 0.5, 3, 7],
    [12.5, 0.5, 3, 9],
    [13, 0.5, 4, 8],
    [13.5, 2.3, 4, 10],
  ]
  return line.map(([beat, length, string, fret], i) => ({
    ...note(beat, length * 0.97, string, fret, i % 4 === 0 ? 1 : 0.85),
    ...(length >= 1.5 ? { vibrato: { from: 0.5, cents: 25 } } : {}),
  }))
}

function sixteenthStrum(): Note[] {
  const pattern = 'X..xX.x.x.Xxx.X.'.split('')
  return BARS.flatMap((bar, i) =>
    pattern.flatMap((stroke, k) => {
      const shift = i === 3 ? -2 : 0
      const chord = SMALL.map((fret) => (fret < 0 ? -1 : fret + shift))
      if (stroke === 'X') return strum(bar + k / 4, 0.28, chord, k % 2 === 0)
      if (stroke === 'x') return dead(strum(bar + k / 4, 0.12, chord, k % 2 === 0, 0.55))
      return []
    }),
  )
}

/** The open low string as a pedal point with moving notes above it; nothing muted. */
function lowRiff(): Note[] {
  return BARS.flatMap((bar, i) => {
    const turn = [
      [0, 3, 5, 3],
      [0, 3, 5, 6],
      [0, 3, 5, 3],
      [0, 7, 5, 3],
    ][i]
    return [
      note(bar, 0.95, 0, turn[0]),
      note(bar + 1, 0.45, 0, 0, 0.85),
      note(bar + 1.5, 0.95, 0, turn[1]),
      note(bar + 2.5, 0.45, 0, turn[2], 0.9),
      note(bar + 3, 0.45, 0, 0, 0.85),
      note(bar + 3.5, 0.45, 0, turn[3], 0.95),
    ]
  })
}

/** Sixteenths on two small chords high on the neck, most of the strokes without a note. */
function funk(): Note[] {
  const pattern = 'Xx.xx.Xxx.xxX.xx'.split('')
  const chords: readonly Chord[] = [
    [-1, -1, 9, 9, 10, 10],
    [-1, -1, 9, 9, 10, 12],
    [-1, -1, 9, 9, 10, 10],
    [-1, -1, 7, 7, 8, 8],
  ]
  return BARS.flatMap((bar, i) =>
    pattern.flatMap((stroke, k) => {
      if (stroke === 'X') return strum(bar + k / 4, 0.2, chords[i], k % 2 === 0)
      if (stroke === 'x') return dead(strum(bar + k / 4, 0.1, chords[i], k % 2 === 0, 0.6))
      return []
    }),
  )
}

/** Broken chords in eighths that ring into each other. */
function arpeggio(): Note[] {
  const chords: readonly Chord[] = [EM, C, G, D]
  const orders = [
    [0, 3, 4, 5, 4, 3, 2, 3],
    [1, 3, 4, 5, 4, 3, 2, 3],
    [0, 3, 4, 5, 4, 3, 2, 3],
    [2, 3, 4, 5, 4, 3, 2, 4],
  ]
  return orders.flatMap((order, bar) =>
    order.map((string, k) => note(bar * 4 + k / 2, 4 - k / 2, string, Math.max(0, chords[bar][string]), k === 0 ? 0.9 : 0.7)),
  )
}

/** Bends of a whole and a half tone, held with vibrato, high on the plain strings. */
function bends(): Note[] {
  return [
    {
      ...note(0, 2.8, 4, 15, 1),
      bend: [
        [0.35, 2],
        [2.8, 2],
      ],
      vibrato: { from: 0.7, cents: 40 },
    },
    note(3, 0.9, 5, 12, 0.85),
    {
      ...note(4, 1.9, 5, 15, 0.95),
      bend: [
        [0.2, 0],
        [0.6, 2],
        [1.2, 2],
        [1.6, 0],
      ],
    },
    { ...note(6, 1.9, 5, 12, 0.9), vibrato: { from: 0.4, cents: 45 } },
    { ...note(8, 1.4, 4, 15, 1), bend: [[0.3, 1]] },
    note(9.5, 0.45, 4, 12, 0.8),
    {
      ...note(10, 1.9, 3, 14, 0.95),
      bend: [
        [0.5, 2],
        [1.9, 2],
      ],
      vibrato: { from: 0.9, cents: 35 },
    },
    { ...note(12, 3.8, 5, 17, 1), vibrato: { from: 0.8, cents: 50 } },
  ]
}

/** Short power chords with silence between them. */
function stabs(): Note[] {
  return BARS.flatMap((bar, i) => {
    const chord = power([0, 3, 5, 1][i])
    const again = power([0, 3, 7, 0][i])
    return [
      ...strum(bar, 0.3, chord, true),
      ...strum(bar + 0.75, 0.2, chord, true, 0.9),
      ...strum(bar + 1.5, 0.3, again, true),
      ...strum(bar + 2.5, 1.1, chord, true, 0.95),
    ]
  })
}

/** Octaves on two strings that slide from one place to the next. */
function octaves(): Note[] {
  const places = [7, 9, 5, 10]
  return BARS.flatMap((bar, i) => {
    const from = places[i]
    const to = places[(i + 1) % 4]
    return [0, 1, 2].flatMap((step) => {
      const accent = step === 0 ? 1 : 0.85
      const held = [
        [1, 0],
        [3, 2],
      ].map(([string, above]): Note => ({
        ...note(bar + step, step === 2 ? 1.95 : 0.95, string, from + above, accent),
        ...(step === 2
          ? {
              bend: [
                [1, 0],
                [1.6, to - from],
                [1.95, to - from],
              ] as const,
            }
          : {}),
      }))
      // the pick strikes through the string between them, which the finger damps
      return [...held, ...dead([note(bar + step + STRUM_BEATS, 0.12, 2, from, 0.6 * accent)])]
    })
  })
}

/** One note that the loudspeaker keeps, until its octave takes over; then another. */
function longNote(): Note[] {
  return [
    { ...note(0, 7.8, 3, 12, 1), feedback: true, vibrato: { from: 2, cents: 18 } },
    { ...note(8, 7.8, 4, 13, 1), feedback: true, vibrato: { from: 2, cents: 18 } },
  ]
}

/** A shipped riff: 16 quarter notes that loop. */
export interface RiffScore {
  readonly id: string
  readonly name: string
  readonly beats: number
  /** Place of the pick, m from the bridge. */
  readonly pickAt: number
  /** Open strings answer what is played. */
  readonly open?: boolean
  notes(): Note[]
}

export const scores: readonly RiffScore[] = [
  { id: 'palm-muted', name: 'Low palm-muted riff', beats: 16, pickAt: 0.14, notes: palmMuted },
  { id: 'open-chords', name: 'Strummed open chords', beats: 16, pickAt: 0.1, open: true, notes: openChords },
  { id: 'lead-line', name: 'Single-note lead', beats: 16, pickAt: 0.09, notes: leadLine },
  { id: 'sixteenth-strum', name: 'Sixteenth-note strum', beats: 16, pickAt: 0.1, notes: sixteenthStrum },
  { id: 'low-riff', name: 'Low open-string riff', beats: 16, pickAt: 0.08, notes: lowRiff },
  { id: 'funk', name: 'Clean sixteenths, muted strokes', beats: 16, pickAt: 0.1, notes: funk },
  { id: 'arpeggio', name: 'Arpeggio that rings', beats: 16, pickAt: 0.11, open: true, notes: arpeggio },
  { id: 'bends', name: 'Bends and vibrato, high', beats: 16, pickAt: 0.09, notes: bends },
  { id: 'stabs', name: 'Power chords with stops', beats: 16, pickAt: 0.05, notes: stabs },
  { id: 'octaves', name: 'Sliding octaves', beats: 16, pickAt: 0.1, notes: octaves },
  { id: 'long-note', name: 'Long note into feedback', beats: 16, pickAt: 0.09, notes: longNote },
]

/** Plucks of each of the six strings, in time order. */
export function plucksOf(score: RiffScore, bpm: number, strength: number, tuning: StringOffsets): Pluck[][] {
  const beat = 60 / bpm
  const strings: Pluck[][] = Array.from({ length: 6 }, () => [])
  for (const n of score.notes())
    strings[n.string].push({
      at: n.beat * beat,
      length: n.length * beat,
      string: n.string,
      fret: n.fret,
      hz: openHz(n.string, tuning) * Math.pow(2, n.fret / 12),
      strength: strength * n.accent,
      mute: n.mute,
      ...(n.dead ? { dead: true } : {}),
      ...(n.feedback ? { feedback: true } : {}),
      ...(n.bend ? { bend: n.bend.map(([at, semitones]) => [at * beat, semitones] as const) } : {}),
      ...(n.vibrato ? { vibrato: { from: n.vibrato.from * beat, cents: n.vibrato.cents, hz: VIBRATO_HZ } } : {}),
    })
  for (const plucks of strings) plucks.sort((a, b) => a.at - b.at)
  return strings
}
