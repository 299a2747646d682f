import { CHUNK } from './block'
import { Ring, ringSize } from './ring'
import type { Machine, Pointer } from '../kernel/machine'

/** A ring in a machine's memory, through which whole chunks go in kernels (core/kernel/rings.ts). */
export class ChunkRing extends Ring {
  readonly at: Pointer

  constructor(
    frames: number,
    private readonly machine: Machine,
  ) {
    const size = ringSize(frames)
    super(frames, new Float32Array(0))
    this.at = machine.make((kernel) => kernel.alloc(4 * size))
    machine.keep((memory) => (this.buffer = new Float32Array(memory, this.at, size)))
  }

  /** The next chunk goes behind the one that was put. */
  advance(): void {
    this.write = (this.write + CHUNK) & this.mask
  }

  putChunk(data: Pointer): void {
    this.machine.kernel.ringPut(this.at, this.write, data)
    this.advance()
  }

  /** The chunk that begins `back` frames before the next one. */
  takeChunk(data: Pointer, back: number): void {
    this.machine.kernel.ringTake(this.at, this.mask + 1, this.write, back, data)
  }

  /** A chunk in place: each frame gives way to what was put `back` whole frames before it. */
  pass(data: Pointer, back: number): void {
    this.machine.kernel.ringPass(this.at, this.mask + 1, this.write, data, back)
    this.advance()
  }

  /** Adds the chunk that begins `back` frames before the next one, times a gain. */
  tap(data: Pointer, back: number, gain: number): void {
    this.machine.kernel.ringTap(this.at, this.mask + 1, this.write, back, data, gain)
  }

  /** Schroeder allpass of its length, at least a chunk, in place. */
  allpass(data: Pointer, gain: number): void {
    this.machine.kernel.ringAllpass(this.at, this.mask + 1, this.write, this.frames, data, gain)
    this.advance()
  }
}
