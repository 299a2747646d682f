import { rightOf, spreadToStereo, type Processor, type StereoBlock } from '../base/block'
import type { Machine } from '../kernel/machine'
import { Glides, type Smooth } from '../base/smooth'
import { SwapDelay } from '../base/swapDelay'

export interface PlacingParams {
  /** −100 … 100. */
  pan?: number
  /** %: 0 mono, 100 as it is, 200 the difference doubled. */
  width?: number
  polarity?: 'normal' | 'inverted'
  /** ms. */
  delay?: number
}

/** Longest delay, ms. */
export const MAX_PLACING_MS = 100

/** Pan (the near side keeps its level), width, polarity and delay: a lane's strip, and the utilities that do one of them. */
export class Placing implements Processor<PlacingParams> {
  readonly latency = 0
  private readonly glides = new Glides()
  private readonly pan = this.glides.add()
  private readonly width = this.glides.add()
  private readonly sign = this.glides.add()
  private readonly delays = [new SwapDelay(), new SwapDelay()]
  private delayed = false
  private rate = 48_000

  get steady(): boolean {
    return this.glides.still && this.delays[0].still
  }

  get still(): boolean {
    return this.steady
  }

  prepare(sampleRate: number, machine: Machine): void {
    this.glides.prepare(sampleRate)
    this.rate = sampleRate
    for (const delay of this.delays) delay.prepare((MAX_PLACING_MS / 1000) * sampleRate, sampleRate, machine)
  }

  set(p: PlacingParams, immediate: boolean): void {
    this.pan.set((p.pan ?? 0) / 100, immediate)
    this.width.set((p.width ?? 100) / 100, immediate)
    this.sign.set(p.polarity === 'inverted' ? -1 : 1, immediate)
    const frames = ((p.delay ?? 0) / 1000) * this.rate
    // once a delay was used the line runs on, so that its memory is whole
    this.delayed ||= p.delay !== undefined
    for (const delay of this.delays) delay.set(frames, immediate)
  }

  tick(): void {
    this.glides.tick()
    for (const delay of this.delays) delay.tick()
  }

  process(block: StereoBlock): void {
    const { pan, width, sign, delays } = this
    const { kernel } = block.machine
    if (!isStill(pan, 0) || (block.stereo && !isStill(width, 1))) {
      spreadToStereo(block)
      kernel.place(block.leftAt, block.rightAt, width.value, width.step, pan.value, pan.step)
    }
    kernel.turn(block.leftAt, rightOf(block), sign.value, sign.step)
    if (!this.delayed) return
    delays[0].process(block.leftAt)
    if (block.stereo) delays[1].process(block.rightAt)
  }

  reset(): void {
    for (const delay of this.delays) delay.reset()
  }
}

const isStill = (s: Smooth, value: number): boolean => s.value === value && s.step === 0
