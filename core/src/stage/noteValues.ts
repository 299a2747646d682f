/** A note value and its length in quarter notes. */
export interface NoteValue {
  readonly id: string
  readonly name: string
  readonly beats: number
}

const BASE = [
  ['whole', 'Whole', 4],
  ['half', 'Half', 2],
  ['quarter', 'Quarter', 1],
  ['eighth', 'Eighth', 0.5],
  ['sixteenth', 'Sixteenth', 0.25],
  ['thirty-second', 'Thirty-second', 0.125],
] as const

/** Straight, dotted (three halves) and triplet (two thirds) values from a whole note to a thirty-second. */
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

/** dB between a repeat and the one before it at `feedback` (0–1). */
export const repeatStepDb = (feedback: number): number => 20 * Math.log10(feedback)

/** Repeats until the level has fallen 60 dB; feedback 0 is one repeat, feedback 1 never ends (common practice, no source). */
export function repeatsUntilSilence(feedback: number): number {
  if (feedback <= 0) return 1
  if (feedback >= 1) return Infinity
  return Math.ceil(60 / -repeatStepDb(feedback))
}
