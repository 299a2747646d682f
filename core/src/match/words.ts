import { THIRD_OCTAVES, type Told } from '@fulgor/core/measure'
import { noteMs, NOTE_VALUES } from '@fulgor/core/stage'
import type { ReferenceReport } from './inspect'

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

const REGIONS = [
  ['lows', 60, 250],
  ['mids', 250, 2_000],
  ['highs', 2_000, 12_500],
] as const

/** Mean width of a region's third octaves, in %. */
function widthIn({ bands }: ReferenceReport['width'], from: number, to: number): string {
  const inside = bands.flatMap((percent, k) => (percent !== null && THIRD_OCTAVES[k] >= from && THIRD_OCTAVES[k] < to ? [percent] : []))
  return inside.length === 0 ? '–' : (inside.reduce((sum, v) => sum + v, 0) / inside.length).toFixed(0)
}

const signed = (x: number, places = 0) => `${x < 0 ? '−' : '+'}${Math.abs(x).toFixed(places)}`

/** What is told of a recording, a line each, in the order of the page. */
export function statementsOf(report: ReferenceReport): Statement[] {
  const { tempo, tuning, sides, echo, ring, modulation, width, cut, others, voice, octave, trusted } = report
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
    {
      name: 'Width',
      value: `${width.percent.toFixed(0)} %`,
      words: width.percent < 0.5 ? 'mono' : REGIONS.map(([name, from, to]) => `${name} ${widthIn(width, from, to)}`).join(', ') + ' %',
      confidence: 1,
    },
    line(
      'Echo',
      echo,
      ({ lagMs }) => `${lagMs.toFixed(0)} ms`,
      ({ lagMs, db, repeats }) =>
        [noteOfLag(lagMs, bpm), `${signed(db)} dB`, repeats ? 'again and again' : null].filter(Boolean).join(', '),
    ),
    line('Room', ring, (s) => `${s.toFixed(2)} s`),
    line('Octave', octave, (db) => `${signed(db, 1)} dB`),
    line('Tremolo', modulation, ({ rateHz }) => `${rateHz.toFixed(2)} Hz`),
    voice.value === null
      ? line('Other players', others, ({ strokes, below }) => `${Math.round(100 * Math.min(1, strokes + below))} %`)
      : line('Other players', voice, () => 'a voice'),
    {
      name: 'Trusted',
      value: `${(trusted.fromHz / 1_000).toFixed(1)}–${kHz(trusted.toHz)}`,
      words: cut.value === null ? cut.words : `${cut.words}: not compared above`,
      confidence: cut.confidence,
    },
  ]
}

/** Crest below which a mix was limited for loudness, dB: common practice, no source. */
const SQUASHED_DB = 9
/** Share of the energy that others may have before it is said. */
const HEARD_SHARE = 0.08

/** What of a recording keeps a comparison from being one of guitar tone, and what that does to the figures; a sentence each. */
export function limitsOf({ others, voice, cut, crestDb, trusted, bands }: ReferenceReport): string[] {
  const said: string[] = []
  if (voice.value !== null)
    said.push('It is a voice, as far as can be heard, and no guitar: no figure here is one of tone. Mark bars in which the guitar plays.')
  const { value } = others
  if (value && value.strokes > HEARD_SHARE)
    said.push(
      `Drums or other strokes hold about ${Math.round(100 * value.strokes)} % of it: they brighten the recording and raise its crest, so “sharp” and “thin” may be the drums. Mark bars without them.`,
    )
  if (value && value.fromHz > 110)
    said.push(`Something plays below the guitar: nothing under ${Math.round(trusted.fromHz)} Hz is compared.`)
  if (cut.value !== null)
    said.push(
      `The file holds nothing above ${(cut.value / 1_000).toFixed(1)} kHz: nothing is compared beyond ${(trusted.toHz / 1_000).toFixed(1)} kHz.`,
    )
  if (crestDb < SQUASHED_DB)
    said.push(`Its crest of ${crestDb.toFixed(1)} dB is that of a limited mix: mastering, not the amp. Do not chase it with gain.`)
  const inside = bands.spread.filter((_, k) => bands.db[k] !== null)
  const mean = inside.reduce((sum, v) => sum + v, 0) / Math.max(1, inside.length)
  if (mean > 6)
    said.push(`Its half seconds differ by ${mean.toFixed(1)} dB a band: other notes than your riff’s count for much of the distance.`)
  return said
}
