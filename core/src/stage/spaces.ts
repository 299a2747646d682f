import { noteMs, NOTE_VALUES } from './noteValues'

/** Note values that a pre-delay may take and still belong to the note before it. */
const SHORT = ['sixty-fourth', 'thirty-second-triplet', 'thirty-second', 'sixteenth-triplet', 'sixteenth']
/** ms from which on a pre-delay lets the pick through, and up to which it is not heard as an echo (common practice, no source). */
const PICK_MS = [40, 120] as const

/** How a reverb can sit in the song. */
export interface ReverbProposal {
  /** Note value of the pre-delay; null where none lies between 40 and 120 ms. */
  readonly preDelay: { readonly id: string; readonly name: string; readonly ms: number } | null
  /** Beats after the note at which the tail has gone, pre-delay included, and the decay in s that does it. */
  readonly beats: number
  readonly decay: number
}

/**
 * Pre-delay and decay related to the tempo: the pre-delay as the short note value nearest to it that lets the pick through, the decay so
 * that the tail has fallen by 60 dB on a beat, as near as can be to what it is (common practice, no source).
 * @param preDelay ms
 * @param decay RT60, s
 */
export function reverbProposal(bpm: number, preDelay: number, decay: number): ReverbProposal {
  const notes = SHORT.flatMap((id) => {
    const note = NOTE_VALUES.find((n) => n.id === id)
    const ms = noteMs(bpm, id)
    return note && ms >= PICK_MS[0] && ms <= PICK_MS[1] ? [{ id, name: note.name, ms }] : []
  })
  const wanted = Math.min(PICK_MS[1], Math.max(PICK_MS[0], preDelay))
  const nearest = notes.reduce<(typeof notes)[number] | null>(
    (best, n) => (best === null || Math.abs(n.ms - wanted) < Math.abs(best.ms - wanted) ? n : best),
    null,
  )
  const beat = 60 / bpm
  const before = preDelay / 1000
  const beats = Math.max(Math.floor(before / beat) + 1, Math.round((before + decay) / beat))
  return { preDelay: nearest, beats, decay: beats * beat - before }
}
