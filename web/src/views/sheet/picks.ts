import type { PickupPosition } from '@fulgor/core/guitar'
import { STRENGTHS, type Strength } from '@fulgor/core/riffs'

/** Peaks of strokes from soft to hard on a position, dBFS: those that riffs are picked with. */
export const picksOf = (pickup: Pick<PickupPosition, Strength>): readonly (readonly [Strength, number])[] =>
  STRENGTHS.map((strength) => [strength, pickup[strength].peakDbfs] as const)

/** An input peak as the softest stroke that reaches it. */
export function pickWords(inputDb: number, pickup: Pick<PickupPosition, Strength>): string {
  const picks = picksOf(pickup)
  const pick = picks.find(([, db]) => db >= inputDb - 3)
  if (!pick) return 'harder than hard'
  return inputDb < picks[0][1] - 12 ? 'any touch' : `${pick[0]} pick`
}
