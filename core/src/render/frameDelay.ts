import { rightOf, type Machine, type Pointer, type StereoBlock } from '@fulgor/core/signal'

/** Delays a block by a fixed number of frames, to keep paths in step. */
export class FrameDelay {
  private readonly line: Pointer

  constructor(
    private readonly frames: number,
    private readonly machine: Machine,
  ) {
    this.line = frames === 0 ? 0 : machine.make((kernel) => kernel.lineCreate(frames))
  }

  process(block: StereoBlock): void {
    if (this.frames > 0) this.machine.kernel.lineProcess(this.line, block.leftAt, rightOf(block))
  }

  /** Takes note of a block that goes another way. */
  keep(block: StereoBlock): void {
    if (this.frames > 0) this.machine.kernel.lineKeep(this.line, block.leftAt, rightOf(block))
  }

  reset(): void {
    if (this.frames > 0) this.machine.kernel.lineReset(this.line)
  }
}
