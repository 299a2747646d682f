import { CHUNK } from './block'

/** Frames of a ring that reaches back by so many, and a chunk more: a power of two. */
export const ringSize = (frames: number): number => 1 << Math.ceil(Math.log2(Math.max(1, frames) + CHUNK + 2))

/** A circular buffer of at least `frames` and a chunk more, for delays inside a processor. */
export class Ring {
  readonly mask: number
  write = 0

  /** @param buffer of its size; a new one unless given */
  constructor(
    readonly frames: number,
    public buffer = new Float32Array(ringSize(frames)),
  ) {
    this.mask = ringSize(frames) - 1
  }

  put(data: Float32Array, frames = CHUNK): void {
    const { buffer, mask, write } = this
    for (let i = 0; i < frames; i++) buffer[(write + i) & mask] = data[i]
    this.write = (write + frames) & mask
  }

  /** What was put `delay` (at least `frames`) before the next put, into `out`. */
  take(out: Float32Array, delay: number, frames = CHUNK): void {
    const { buffer, mask, write } = this
    for (let i = 0; i < frames; i++) out[i] = buffer[(write + i - delay) & mask]
  }

  /**
   * Value that lies `delay` frames (fractional, at least 2) before the one that is put next, by third-order Lagrange interpolation,
   * flat within 0.1 dB to a quarter of the rate. Source: Laakso et al., IEEE Signal Processing Magazine 1996.
   */
  between(delay: number): number {
    const { buffer, mask, write } = this
    const whole = Math.floor(delay)
    const t = delay - whole + 1
    const n = write - whole
    const a = buffer[(n + 1) & mask]
    const b = buffer[n & mask]
    const c = buffer[(n - 1) & mask]
    const d = buffer[(n - 2) & mask]
    // Newton form over the four neighbours, the newest first
    return a + t * (b - a + (t - 1) * (0.5 * (a - 2 * b + c) + ((t - 2) / 6) * (d - 3 * c + 3 * b - a)))
  }

  /** One frame more. */
  push(value: number): void {
    this.buffer[this.write] = value
    this.write = (this.write + 1) & this.mask
  }

  reset(): void {
    this.buffer.fill(0)
  }
}
