/** Points of every curve: 24 an octave from 20 Hz to 20 kHz. */
export const NET_HZ: readonly number[] = Array.from({ length: 240 }, (_, i) => 20 * Math.pow(1000, i / 239))

/** What one stage adds to the sum. */
export interface Contributor {
  readonly stage: string
  readonly name: string
  readonly family: string
  /** dB at {@link NET_HZ}. */
  readonly db: readonly number[]
}

/** dB of a curve at a frequency, between its points. */
export function netAt(db: readonly number[], hz: number): number {
  const at = Math.max(0, Math.min(NET_HZ.length - 1, (239 * Math.log(hz / 20)) / Math.log(1000)))
  const low = Math.min(NET_HZ.length - 2, Math.floor(at))
  return db[low] + (at - low) * (db[low + 1] - db[low])
}
