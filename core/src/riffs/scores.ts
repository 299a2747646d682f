import type { Pluck } from './pluckedString'

/** A note in a score: time and length in quarter notes, pitch as a fret on a string (0 = lowest). */
interface Note {
  beat: number
  length: number
  string: number
  fret: number
  accent: number
  mute: number
}

/** Open strings in Hz, low to high: E2 A2 D3 G3 B3 E4 at A4 = 440. */
const OPEN = [82.407, 110, 146.832, 195.998, 246.942, 329.628]
const STRUM_SECONDS = 0.011

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
  return order.map(({ fret, string }, i) => note(beat + i * STRUM_SECONDS * 1.6, length, string, fret, accent * (down ? 1 : 0.8), mute))
}

const EM: Chord = [0, 2, 2, 0, 0, 0]
const C: Chord = [-1, 3, 2, 0, 1, 0]
const G: Chord = [3, 2, 0, 0, 0, 3]
const D: Chord = [-1, -1, 0, 2, 3, 2]
const SMALL: Chord = [-1, 7, 6, 7, 7, -1]

function palmMuted(): Note[] {
  return [0, 4, 8, 12].flatMap((bar, i) => {
    const root = [0, 0, 3, 1][i]
    const chug = [0, 0.5, 0.75, 1, 1.5, 1.75, 2, 2.5].flatMap((b) => [note(bar + b, 0.24, 0, root, b % 1 === 0 ? 1 : 0.8, 0.85)])
    const hit = [note(bar + 3, 0.9, 0, root + 5), note(bar + 3.01, 0.9, 1, root + 7), note(bar + 3.02, 0.9, 2, root + 7)]
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
    [0, 1.5, 4, 8], [1.5, 0.5, 4, 10], [2, 1, 5, 7], [3, 1, 5, 10],
    [4, 2, 5, 12], [6, 0.5, 5, 10], [6.5, 0.5, 5, 7], [7, 1, 4, 8],
    [8, 0.5, 4, 10], [8.5, 0.5, 4, 8], [9, 0.5, 3, 9], [9.5, 0.5, 3, 7], [10, 2, 3, 9],
    [12, 0.5, 3, 7], [12.5, 0.5, 3, 9], [13, 0.5, 4, 8], [13.5, 2.3, 4, 10],
  ] // prettier-ignore
  return line.map(([beat, length, string, fret], i) => note(beat, length * 0.97, string, fret, i % 4 === 0 ? 1 : 0.85, 0.04))
}

function sixteenthStrum(): Note[] {
  const pattern = 'X..xX.x.x.Xxx.X.'.split('')
  return [0, 4, 8, 12].flatMap((bar, i) =>
    pattern.flatMap((stroke, k) => {
      const shift = i === 3 ? -2 : 0
      const chord = SMALL.map((fret) => (fret < 0 ? -1 : fret + shift))
      if (stroke === 'X') return strum(bar + k / 4, 0.28, chord, k % 2 === 0)
      if (stroke === 'x') return strum(bar + k / 4, 0.12, chord, k % 2 === 0, 0.55, 0.95)
      return []
    }),
  )
}

/** A shipped riff: 16 quarter notes that loop. */
export interface RiffScore {
  readonly id: string
  readonly name: string
  readonly beats: number
  readonly pickPosition: number
  notes(): Note[]
}

export const scores: readonly RiffScore[] = [
  { id: 'palm-muted', name: 'Low palm-muted riff', beats: 16, pickPosition: 0.09, notes: palmMuted },
  { id: 'open-chords', name: 'Strummed open chords', beats: 16, pickPosition: 0.16, notes: openChords },
  { id: 'lead-line', name: 'Single-note lead', beats: 16, pickPosition: 0.13, notes: leadLine },
  { id: 'sixteenth-strum', name: 'Sixteenth-note strum', beats: 16, pickPosition: 0.19, notes: sixteenthStrum },
]

/** Plucks of each of the six strings, in time order. */
export function plucksOf(score: RiffScore, bpm: number, strength: number): Pluck[][] {
  const beat = 60 / bpm
  const strings: Pluck[][] = OPEN.map(() => [])
  for (const n of score.notes())
    strings[n.string].push({
      at: n.beat * beat,
      length: n.length * beat,
      hz: OPEN[n.string] * Math.pow(2, n.fret / 12),
      strength: strength * n.accent,
      mute: n.mute,
    })
  for (const plucks of strings) plucks.sort((a, b) => a.at - b.at)
  return strings
}
