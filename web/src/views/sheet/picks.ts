import type { GuitarProfile } from '@fulgor/core/preset'

/** How far softer strokes lie below a hard strum, dB (common practice, no source). */
export const PICKS = [
  ['soft', -20],
  ['medium', -10],
  ['hard', 0],
] as const

/** An input peak as the softest stroke that reaches it. */
export function pickWords(inputDb: number, guitar: GuitarProfile): string {
  const over = inputDb - guitar.hardPeakDbfs
  const pick = PICKS.find(([, db]) => db >= over - 3)
  if (!pick) return 'harder than hard'
  return over < PICKS[0][1] - 12 ? 'any touch' : `${pick[0]} pick`
}
