import { CHUNK } from './block'
import type { Machine, Pointer } from '../kernel/machine'
import { ChunkRing } from './chunkRing'
import { Fade } from './smooth'

/** Seconds of a change of length. */
export const SWAP_SECONDS = 0.03

/** A length in whole samples that changes by a crossfade of 30 ms between two readings, without a glide. */
export class SwapLength {
  current = 0
  previous = 0
  private wanted = 0

  /** @param fade ticked by its owner, open while nothing changes */
  constructor(readonly fade: Fade) {}

  set(frames: number, immediate: boolean): void {
    this.wanted = frames
    if (!immediate) return
    this.current = this.previous = frames
    this.fade.set(true, true)
  }

  /** After the fade's own tick. */
  tick(): void {
    if (!this.fade.open || this.wanted === this.current) return
    this.previous = this.current
    this.current = this.wanted
    this.fade.set(false, true)
    this.fade.set(true, false)
    this.fade.tick()
  }

  /** What a line of a power of two of samples gives, read from `write` on, `at` frames into the chunk. */
  read(out: Float32Array, buffer: Float32Array, write: number, at = 0, frames = CHUNK): void {
    const { fade, current, previous } = this
    const mask = buffer.length - 1
    if (fade.open) for (let i = 0; i < frames; i++) out[i] = buffer[(write + i - current) & mask]
    else
      for (let i = 0; i < frames; i++) {
        const share = fade.value + (at + i) * fade.step
        out[i] = share * buffer[(write + i - current) & mask] + (1 - share) * buffer[(write + i - previous) & mask]
      }
  }
}

/** A delay line of whole samples for one channel; a new length crossfades in 30 ms, without a glide. */
export class SwapDelay {
  private ring: ChunkRing | null = null
  private readonly swap = new Fade(true)
  private readonly length = new SwapLength(this.swap)

  prepare(maxFrames: number, sampleRate: number, machine: Machine): void {
    this.ring = new ChunkRing(Math.ceil(maxFrames), machine)
    this.swap.prepare(sampleRate, SWAP_SECONDS)
  }

  set(frames: number, immediate: boolean): void {
    this.length.set(Math.round(frames), immediate)
  }

  tick(): void {
    this.swap.tick()
    this.length.tick()
  }

  /** A chunk in place, which lies at `place` in the machine. */
  process(data: Float32Array, place: Pointer): void {
    const { ring, length } = this
    if (!ring) return
    if (this.swap.open) {
      ring.pass(place, length.current)
      return
    }
    const { write } = ring
    ring.put(data)
    length.read(data, ring.buffer, write)
  }

  reset(): void {
    this.ring?.reset()
  }
}
