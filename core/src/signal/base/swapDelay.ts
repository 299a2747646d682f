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

  /** Nothing of it moves until it is set. */
  get still(): boolean {
    return this.fade.still && this.wanted === this.current
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

  /** Nothing of it moves until it is set. */
  get still(): boolean {
    return this.length.still
  }

  /** A chunk in place, in the machine's memory. */
  process(data: Pointer): void {
    const { swap } = this
    const { current, previous } = this.length
    if (swap.open) this.ring?.pass(data, current)
    else this.ring?.swap(data, current, previous, swap.value, swap.step)
  }

  reset(): void {
    this.ring?.reset()
  }
}
