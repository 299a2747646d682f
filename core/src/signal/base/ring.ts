import type { Machine, Pointer } from '../kernel/machine'
import { CHUNK } from './block'

/** A circular buffer of at least `frames` and a chunk more, for delays inside a processor. */
export class Ring {
  buffer = new Float32Array(0)
  readonly mask: number
  write = 0
  private readonly at: Pointer

  /** @param machine in whose memory it lies where whole chunks pass it */
  constructor(
    readonly frames: number,
    private readonly machine: Machine | null = null,
  ) {
    const size = 1 << Math.ceil(Math.log2(Math.max(1, frames) + CHUNK + 2))
    this.at = machine?.make((kernel) => kernel.alloc(4 * size)) ?? 0
    if (machine) machine.keep((memory) => (this.buffer = new Float32Array(memory, this.at, size)))
    else this.buffer = new Float32Array(size)
    this.mask = size - 1
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

  /** A chunk in place: each frame gives way to what was put `delay` whole frames before it. Only in a machine, and chunk by chunk. */
  pass(data: Pointer, delay: number): void {
    const { mask, write } = this
    this.machine?.kernel.ringPass(this.at, mask + 1, write, data, delay)
    this.write = (write + CHUNK) & mask
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

/** Schroeder allpass over a ring of its length, in place. */
export function allpass(ring: Ring, data: Float32Array, gain: number): void {
  const { buffer, mask, write, frames: length } = ring
  for (let i = 0; i < CHUNK; i++) {
    const delayed = buffer[(write + i - length) & mask]
    const v = data[i] - gain * delayed
    buffer[(write + i) & mask] = v
    data[i] = delayed + gain * v
  }
  ring.write = (write + CHUNK) & mask
}
