/** Points of every curve: 48 an octave from 20 Hz to 20 kHz. */
export const NET_HZ: readonly number[] = Array.from({ length: 480 }, (_, i) => 20 * Math.pow(1000, i / 479))

/** What one stage adds to the sum. */
export interface Contributor {
  readonly stage: string
  readonly name: string
  readonly family: string
  /** dB at {@link NET_HZ}. */
  readonly db: readonly number[]
}

/** dB of a curve at a frequency, between its points by a cubic (Catmull and Rom, 1974): within 0.01 dB at a bell with a Q of 6. */
export function netAt(db: readonly number[], hz: number): number {
  const last = NET_HZ.length - 1
  const at = Math.max(0, Math.min(last, (last * Math.log(hz / NET_HZ[0])) / Math.log(NET_HZ[last] / NET_HZ[0])))
  const low = Math.min(last - 1, Math.floor(at))
  const t = at - low
  const [a, b, c, d] = [Math.max(0, low - 1), low, low + 1, Math.min(last, low + 2)].map((i) => db[i])
  return b + (t / 2) * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a)))
}
