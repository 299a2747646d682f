import type { GuitarProfile } from '@fulgor/core/preset'
import { STRENGTHS, STROKE_DB } from '@fulgor/core/riffs'

/** Strokes from soft to hard with their distance from a hard strum, dB: those that the shipped riffs are picked with. */
export const PICKS = STRENGTHS.map((strength) => [strength, STROKE_DB[strength]] as const)

/** An input peak as the softest stroke that reaches it. */
export function pickWords(inputDb: number, guitar: GuitarProfile): string {
  const over = inputDb - guitar.hardPeakDbfs
  const pick = PICKS.find(([, db]) => db >= over - 3)
  if (!pick) return 'harder than hard'
  return over < PICKS[0][1] - 12 ? 'any touch' : `${pick[0]} pick`
}
