import { noteMs, NOTE_VALUES } from '@fulgor/core/stage'
import type { ReferenceReport } from './inspect'
import type { Told } from './told'

/** One line of what a recording is. */
export interface Statement {
  readonly name: string
  /** The figure with its unit; “–” where there is not enough to say. */
  readonly value: string
  readonly words: string
  /** 0–1. */
  readonly confidence: number
}

/** How near a lag must be to a note value to be one. */
const NEAR = 0.02

/** The note value of a time at a tempo; null where it is none. */
export function noteOfLag(ms: number, bpm: number | null): string | null {
  if (bpm === null) return null
  const near = NOTE_VALUES.map((n) => ({ name: n.name, off: Math.abs(noteMs(bpm, n.id) / ms - 1) })).sort((a, b) => a.off - b.off)[0]
  return near.off < NEAR ? near.name : null
}

const signed = (x: number, places = 0) => `${x < 0 ? '−' : '+'}${Math.abs(x).toFixed(places)}`

/** What is told of a recording, a line each, in the order of the page. */
export function statementsOf(report: ReferenceReport): Statement[] {
  const { tempo, tuning, sides, echo, ring, cut, others, trusted } = report
  const line = <T>(name: string, told: Told<T>, value: (found: T) => string, words = (_: T): string => told.words): Statement => ({
    name,
    value: told.value === null ? '–' : value(told.value),
    words: told.value === null ? (told.confidence > 0 ? told.words : `not enough to say: ${told.words}`) : words(told.value),
    confidence: told.confidence,
  })
  const bpm = tempo.value
  const kHz = (hz: number) => (hz >= 1_000 ? `${(hz / 1_000).toFixed(1)} kHz` : `${Math.round(hz)} Hz`)
  return [
    line('Tempo', tempo, (found) => `${found.toFixed(1)} bpm`),
    line(
      'Tuning',
      tuning,
      ({ cents }) => `${signed(cents)} cents`,
      ({ cents }) => `${tuning.words}, A at ${(440 * Math.pow(2, cents / 1_200)).toFixed(1)} Hz`,
    ),
    line('Sides', sides, ({ kind, lagMs, rateHz }) =>
      lagMs !== null ? `${lagMs.toFixed(1)} ms` : rateHz !== null ? `${rateHz.toFixed(2)} Hz` : kind,
    ),
    line(
      'Echo',
      echo,
      ({ lagMs }) => `${lagMs.toFixed(0)} ms`,
      ({ lagMs, db, repeats }) =>
        [noteOfLag(lagMs, bpm), `${signed(db)} dB`, repeats ? 'again and again' : null].filter(Boolean).join(', '),
    ),
    line('Room', ring, (s) => `${s.toFixed(2)} s`),
    line('Other players', others, ({ strokes, below }) => `${Math.round(100 * Math.min(1, strokes + below))} %`),
    {
      name: 'Trusted',
      value: `${kHz(trusted.fromHz)} – ${kHz(trusted.toHz)}`,
      words: cut.value === null ? cut.words : `${cut.words}: not compared above`,
      confidence: cut.confidence,
    },
  ]
}
