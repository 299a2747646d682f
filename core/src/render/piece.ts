import { CHUNK, type Machine, type Pointer } from '@fulgor/core/signal'

/** Frames that are brought into a machine's memory at once: chunk by chunk that would cost as much as a light stage. */
export const PIECE = 64 * CHUNK

/** A piece of a signal in a machine's memory, of at most {@link PIECE} frames. Pieces as long as the arrays themselves allocate nothing. */
export class Piece {
  readonly leftAt: Pointer
  readonly rightAt: Pointer
  private readonly left: Side
  private readonly right: Side

  constructor(machine: Machine) {
    const bytes = 4 * PIECE
    this.leftAt = machine.make((kernel) => kernel.alloc(2 * bytes))
    this.rightAt = this.leftAt + bytes
    this.left = new Side(this.leftAt, machine)
    this.right = new Side(this.rightAt, machine)
  }

  /** Silence follows it to the end of its last chunk. */
  load(left: Float32Array, right: Float32Array | null, start: number, count: number): void {
    this.left.load(left, start, count)
    if (right) this.right.load(right, start, count)
  }

  save(left: Float32Array, right: Float32Array | null, start: number, count: number): void {
    this.left.save(left, start, count)
    if (right) this.right.save(right, start, count)
  }
}

class Side {
  private whole = new Float32Array(0)
  /** As much of it as was wanted last. */
  private part = this.whole

  constructor(at: Pointer, machine: Machine) {
    machine.keep((buffer) => (this.whole = this.part = new Float32Array(buffer, at, PIECE)))
  }

  private view(count: number): Float32Array {
    if (this.part.length !== count) this.part = this.whole.subarray(0, count)
    return this.part
  }

  load(from: Float32Array, start: number, count: number): void {
    this.view(count).set(within(from, start, count))
    const end = Math.ceil(count / CHUNK) * CHUNK
    if (count < end) this.whole.fill(0, count, end)
  }

  save(to: Float32Array, start: number, count: number): void {
    to.set(this.view(count), start)
  }
}

const within = (side: Float32Array, start: number, count: number): Float32Array =>
  start === 0 && count === side.length ? side : side.subarray(start, start + count)
