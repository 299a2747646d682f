/** What was found of a recording. `value` null: not enough to say, and `words` tells why. */
export interface Told<T> {
  readonly value: T | null
  /** 0–1. */
  readonly confidence: number
  /** In a few words, for the player. */
  readonly words: string
}

export const unsaid = (words: string): Told<never> => ({ value: null, confidence: 0, words })

export const median = (values: ArrayLike<number>): number => {
  const sorted = Float64Array.from(values).sort()
  return sorted.length === 0 ? 0 : sorted[sorted.length >> 1]
}

/** How much a value stands out: 0 at `low`, 1 at `high`, straight between. */
export const share = (value: number, low: number, high: number): number => Math.min(1, Math.max(0, (value - low) / (high - low)))

/** Place of the top of a parabola through three values around index 0, −0.5–0.5. */
export const topBetween = (before: number, at: number, after: number): number => {
  const bend = before - 2 * at + after
  return bend < 0 ? Math.min(0.5, Math.max(-0.5, (0.5 * (before - after)) / bend)) : 0
}
