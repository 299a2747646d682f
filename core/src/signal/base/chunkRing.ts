import { ringSize } from './ring'
import type { Machine, Pointer } from '../kernel/machine'

/** A delay line in a machine's memory that reaches back by `frames`, through which whole chunks go (core/kernel/rings.ts). */
export class ChunkRing {
  private readonly at: Pointer

  constructor(
    readonly frames: number,
    private readonly machine: Machine,
  ) {
    this.at = machine.make((kernel) => kernel.ringCreate(ringSize(frames)))
  }

  put(data: Pointer): void {
    this.machine.kernel.ringPut(this.at, data)
  }

  /** The chunk that begins `back` frames before the next one. */
  take(data: Pointer, back: number): void {
    this.machine.kernel.ringTake(this.at, data, back)
  }

  /** A chunk in place: each frame gives way to what was put `back` whole frames before it. */
  pass(data: Pointer, back: number): void {
    this.machine.kernel.ringPass(this.at, data, back)
  }

  /** The same with a share of `back`, which moves by `step` a frame, and the rest of `before`. */
  swap(data: Pointer, back: number, before: number, share: number, step: number): void {
    this.machine.kernel.ringSwap(this.at, data, back, before, share, step)
  }

  /** The same with a length of 2 + depth · (1 + swing), between the frames. @param moving where both and their steps stand, f64 */
  bend(data: Pointer, moving: Pointer): void {
    this.machine.kernel.ringBend(this.at, data, moving)
  }

  /** Adds the chunk that begins `back` frames before the next one, times a gain. */
  tap(data: Pointer, back: number, gain: number): void {
    this.machine.kernel.ringTap(this.at, data, back, gain)
  }

  /** Schroeder allpass of its length, at least a chunk, in place. */
  allpass(data: Pointer, gain: number): void {
    this.machine.kernel.ringAllpass(this.at, data, this.frames, gain)
  }

  reset(): void {
    this.machine.kernel.ringReset(this.at)
  }
}
