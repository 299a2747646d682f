/** A note's name: letter, sharp or flat, octave; C4 is the middle C. */
const NOTE = /^([A-Ga-g])\s*(#|♯|b|♭)?\s*(-?\d)$/
const FROM_C: Record<string, number> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 }
const NAMES = ['C', 'C♯', 'D', 'E♭', 'E', 'F', 'F♯', 'G', 'A♭', 'A', 'B♭', 'B']

/** Semitones above C−1 (MIDI numbers) of a note such as “E2”, “B♭1” or “f#3”; null where it is none. */
export function noteNumber(name: string): number | null {
  const match = NOTE.exec(name.trim())
  if (!match) return null
  const [, letter, sign, octave] = match
  return 12 * (Number(octave) + 1) + FROM_C[letter.toUpperCase()] + (sign === undefined ? 0 : sign === '#' || sign === '♯' ? 1 : -1)
}

/** The name of a note by its number. */
export const noteName = (number: number): string => `${NAMES[((number % 12) + 12) % 12]}${Math.floor(number / 12) - 1}`

/** Hz of a note. Source: ISO 16:1975 for 440 Hz; equal temperament. */
export const noteHz = (number: number, a4 = 440): number => a4 * Math.pow(2, (number - 69) / 12)

/** Tunings by name, low string to high. */
export const NAMED_TUNINGS: readonly { readonly name: string; readonly notes: readonly string[] }[] = [
  { name: 'E standard', notes: ['E2', 'A2', 'D3', 'G3', 'B3', 'E4'] },
  { name: 'E♭ standard', notes: ['E♭2', 'A♭2', 'C♯3', 'F♯3', 'B♭3', 'E♭4'] },
  { name: 'D standard', notes: ['D2', 'G2', 'C3', 'F3', 'A3', 'D4'] },
  { name: 'Drop D', notes: ['D2', 'A2', 'D3', 'G3', 'B3', 'E4'] },
  { name: 'Drop C', notes: ['C2', 'G2', 'C3', 'F3', 'A3', 'D4'] },
  { name: 'Drop B', notes: ['B1', 'F♯2', 'B2', 'E3', 'A♭3', 'C♯4'] },
  { name: 'Drop A', notes: ['A1', 'E2', 'A2', 'D3', 'F♯3', 'B3'] },
  { name: 'B standard', notes: ['B1', 'E2', 'A2', 'D3', 'F♯3', 'B3'] },
  { name: 'DADGAD', notes: ['D2', 'A2', 'D3', 'G3', 'A3', 'D4'] },
  { name: 'Open G', notes: ['D2', 'G2', 'D3', 'G3', 'B3', 'D4'] },
  { name: 'Open D', notes: ['D2', 'A2', 'D3', 'F♯3', 'A3', 'D4'] },
  { name: 'Open E', notes: ['E2', 'B2', 'E3', 'A♭3', 'B3', 'E4'] },
  { name: 'Seven strings, B', notes: ['B1', 'E2', 'A2', 'D3', 'G3', 'B3', 'E4'] },
  { name: 'Four-string bass', notes: ['E1', 'A1', 'D2', 'G2'] },
]

/** The name of a tuning, or its notes where it has none. */
export function tuningName(notes: readonly string[]): string {
  const numbers = notes.map(noteNumber)
  const found = NAMED_TUNINGS.find((t) => t.notes.length === notes.length && t.notes.every((n, k) => noteNumber(n) === numbers[k]))
  return found?.name ?? notes.join(' ')
}

/**
 * Reads a tuning as it is typed: a name (“drop D”, “e standard”), or its notes from the low string to the high one (“D2 A2 D3 G3 A3 D4”).
 * @returns the notes, or the reason in a sentence
 */
export function parseTuning(text: string): readonly string[] | { readonly reason: string } {
  const plain = (name: string) => name.toLowerCase().replaceAll('♭', 'b').replaceAll('♯', '#').replace(/\s+/g, ' ').trim()
  const named = NAMED_TUNINGS.find((t) => plain(t.name) === plain(text) || plain(t.name).replace(' standard', '') === plain(text))
  if (named) return named.notes
  const notes = text.trim().split(/[\s,]+/)
  const strange = notes.find((n) => noteNumber(n) === null)
  if (strange !== undefined)
    return {
      reason: `“${strange}” is no note with its octave (E2, B♭1), and there is no tuning of that name: ${NAMED_TUNINGS.slice(0, 5)
        .map((t) => t.name)
        .join(', ')} …`,
    }
  if (notes.length < 4 || notes.length > 12) return { reason: `A guitar has 4 to 12 strings, not ${notes.length}.` }
  return notes.map((n) => noteName(noteNumber(n) ?? 0))
}

const STANDARD = NAMED_TUNINGS[0].notes.map((n) => noteNumber(n) ?? 0)

/**
 * Semitones by which each of six strings, low to high, lies off E standard at 440 Hz, for the shipped riffs. Of more strings the six
 * highest are played; with fewer the riffs stay on the strings as they are tuned for six.
 */
export function tuningOffsets({
  a4,
  strings,
}: {
  readonly a4: number
  readonly strings: readonly { note: string; cents: number }[]
}): number[] {
  const pitch = 12 * Math.log2(a4 / 440)
  if (strings.length < 6) return STANDARD.map(() => pitch)
  return strings.slice(-6).map(({ note, cents }, k) => (noteNumber(note) ?? STANDARD[k]) + cents / 100 - STANDARD[k] + pitch)
}
