import { CHUNK } from './block'
import { Fade } from './smooth'

/** A delay line of whole samples for one channel; a new length crossfades in 30 ms, without a glide. */
export class SwapDelay {
  private buffer = new Float64Array(64)
  private mask = 63
  private write = 0
  private readonly swap = new Fade(true)
  private wanted = 0
  private current = 0
  private previous = 0

  prepare(maxFrames: number, sampleRate: number): void {
    const size = 1 << Math.ceil(Math.log2(maxFrames + CHUNK + 1))
    this.buffer = new Float64Array(size)
    this.mask = size - 1
    this.swap.prepare(sampleRate, 0.03)
  }

  set(frames: number, immediate: boolean): void {
    this.wanted = Math.round(frames)
    if (immediate) {
      this.current = this.previous = this.wanted
      this.swap.set(true, true)
    }
  }

  tick(): void {
    this.swap.tick()
    if (this.swap.open && this.wanted !== this.current) {
      this.previous = this.current
      this.current = this.wanted
      this.swap.set(false, true)
      this.swap.set(true, false)
      this.swap.tick()
    }
  }

  /** In place; `at` is the place within the chunk. */
  process(data: Float64Array, at: number, frames: number): void {
    const { buffer, mask, write, swap, current, previous } = this
    for (let i = 0; i < frames; i++) buffer[(write + i) & mask] = data[i]
    if (swap.open) for (let i = 0; i < frames; i++) data[i] = buffer[(write + i - current) & mask]
    else
      for (let i = 0; i < frames; i++) {
        const share = swap.value + (at + i) * swap.step
        data[i] = share * buffer[(write + i - current) & mask] + (1 - share) * buffer[(write + i - previous) & mask]
      }
    this.write = (write + frames) & mask
  }

  reset(): void {
    this.buffer.fill(0)
  }
}
