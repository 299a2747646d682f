import { CHUNK, type StereoBlock } from '@fulgor/core/signal'

/** Delays a block by a fixed number of frames, to keep paths in step. */
export class FrameDelay {
  private readonly left: Float64Array
  private readonly right: Float64Array
  private readonly mask: number
  private write = 0

  constructor(private readonly frames: number) {
    const size = 1 << Math.ceil(Math.log2(frames + CHUNK + 1))
    this.left = new Float64Array(size)
    this.right = new Float64Array(size)
    this.mask = size - 1
  }

  process(block: StereoBlock, count: number): void {
    if (this.frames === 0) return
    this.run(this.left, block.left, count)
    if (block.stereo) this.run(this.right, block.right, count)
    this.write = (this.write + count) & this.mask
  }

  private run(ring: Float64Array, data: Float64Array, count: number): void {
    const { write, mask, frames } = this
    for (let i = 0; i < count; i++) {
      ring[(write + i) & mask] = data[i]
      data[i] = ring[(write + i - frames) & mask]
    }
  }

  reset(): void {
    this.left.fill(0)
    this.right.fill(0)
  }
}
