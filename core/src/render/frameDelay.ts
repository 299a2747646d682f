import { ChunkRing, type Machine, type StereoBlock } from '@fulgor/core/signal'

/** Delays a block by a fixed number of frames, to keep paths in step. */
export class FrameDelay {
  private readonly sides: readonly ChunkRing[]

  constructor(
    private readonly frames: number,
    machine: Machine,
  ) {
    this.sides = frames === 0 ? [] : [new ChunkRing(frames, machine), new ChunkRing(frames, machine)]
  }

  process(block: StereoBlock): void {
    if (this.frames === 0) return
    this.sides[0].pass(block.leftAt, this.frames)
    if (block.stereo) this.sides[1].pass(block.rightAt, this.frames)
  }

  /** Takes note of a block that goes another way. */
  keep(block: StereoBlock): void {
    if (this.frames === 0) return
    this.sides[0].put(block.leftAt)
    if (block.stereo) this.sides[1].put(block.rightAt)
  }

  reset(): void {
    for (const side of this.sides) side.reset()
  }
}
