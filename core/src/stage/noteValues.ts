/** A note value and its length in quarter notes. */
export interface NoteValue {
  readonly id: string
  readonly name: string
  readonly beats: number
}

const BASE = [
  ['double-whole', 'Double whole', 8],
  ['whole', 'Whole', 4],
  ['half', 'Half', 2],
  ['quarter', 'Quarter', 1],
  ['eighth', 'Eighth', 0.5],
  ['sixteenth', 'Sixteenth', 0.25],
  ['thirty-second', 'Thirty-second', 0.125],
  ['sixty-fourth', 'Sixty-fourth', 0.0625],
] as const

/** Straight, dotted (three halves) and triplet (two thirds) values from a double whole note to a sixty-fourth. */
export const NOTE_VALUES: readonly NoteValue[] = BASE.flatMap(([id, name, beats]) => [
  { id, name, beats },
  { id: `${id}-dotted`, name: `Dotted ${name.toLowerCase()}`, beats: beats * 1.5 },
  { id: `${id}-triplet`, name: `${name} triplet`, beats: (beats * 2) / 3 },
])

/**
 * Length of a note value in ms: one beat (a quarter) is 60,000 / bpm ms (common practice, no source).
 * @throws RangeError for an unknown note value or a tempo outside 20–400 bpm
 */
export function noteMs(bpm: number, noteId: string): number {
  if (!(bpm >= 20 && bpm <= 400)) throw new RangeError(`Tempo must lie between 20 and 400 bpm, not ${bpm}.`)
  const note = NOTE_VALUES.find((n) => n.id === noteId)
  if (!note) throw new RangeError(`There is no note value “${noteId}”.`)
  return (60_000 / bpm) * note.beats
}

const NAMES = NOTE_VALUES.map((n) => [n.name.toLowerCase(), n.beats] as const)

/**
 * Length in quarter notes of a note value as players write it: "1/8", "1/8d" or "1/8." for dotted, "1/8t" for a triplet, "3/16",
 * "dotted eighth", "2 beats", "1 bar" (of four quarters).
 * @returns null when the text is none
 */
export function parseBeats(text: string): number | null {
  const clean = text.trim().toLowerCase().replace(/\s+/g, ' ')
  const named = NAMES.find(([name]) => name === clean || name === clean.replace(/ note$/, ''))
  if (named) return named[1]
  const counted = /^(\d+(?:[.,]\d+)?) ?(beat|beats|bar|bars)$/.exec(clean)
  if (counted) return positive(Number(counted[1].replace(',', '.')) * (counted[2].startsWith('bar') ? 4 : 1))
  const written = /^(\d{1,2})\/(\d{1,2}) ?(d|\.|dotted|t|triplet)?$/.exec(clean)
  if (!written || Number(written[2]) === 0) return null
  const length = (4 * Number(written[1])) / Number(written[2])
  const kind = written[3]
  return positive(kind === undefined ? length : kind.startsWith('t') ? (length * 2) / 3 : length * 1.5)
}

const positive = (beats: number): number | null => (beats > 0 ? beats : null)

/** The note value of just this length. */
export const noteOfBeats = (beats: number): NoteValue | null => NOTE_VALUES.find((n) => Math.abs(n.beats - beats) < 1e-6) ?? null

/** dB between a repeat and the one before it at `feedback` (0–1). */
export const repeatStepDb = (feedback: number): number => 20 * Math.log10(feedback)

/** Repeats until the level has fallen 60 dB; feedback 0 is one repeat, feedback 1 never ends (common practice, no source). */
export function repeatsUntilSilence(feedback: number): number {
  if (feedback <= 0) return 1
  if (feedback >= 1) return Infinity
  return Math.ceil(60 / -repeatStepDb(feedback))
}
