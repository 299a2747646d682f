import { createBlock, type Processor, type StereoBlock } from '../base/block'
import type { Machine, Pointer } from '../kernel/machine'
import { setMix } from '../base/mix'
import { Glides } from '../base/smooth'
import { SwapDelay } from '../base/swapDelay'
import { dbToGain } from '../base/units'

export interface OutsideLoopParams {
  /** dB into and out of the outside amp. */
  send: number
  return: number
  /** ms that the trip through converters and cables takes. */
  trip: number
  polarity: 'normal' | 'inverted'
  /** %. */
  mix: number
}

/** The place where an outside amp is looped in: its levels, its lateness and its polarity against what passes beside it. */
export class OutsideLoop implements Processor<OutsideLoopParams> {
  readonly latency = 0
  private readonly glides = new Glides()
  private readonly mix = this.glides.mix()
  private readonly delays = [new SwapDelay(), new SwapDelay()]
  private late: StereoBlock | null = null
  private rate = 48_000

  get steady(): boolean {
    return this.glides.still && this.delays[0].still
  }

  get still(): boolean {
    return this.steady
  }

  prepare(sampleRate: number, machine: Machine): void {
    this.late = createBlock(machine)
    this.glides.prepare(sampleRate)
    this.rate = sampleRate
    for (const delay of this.delays) delay.prepare(0.05 * sampleRate, sampleRate, machine)
  }

  set(p: OutsideLoopParams, immediate: boolean): void {
    setMix(this.mix, p.mix, immediate, 1, dbToGain(p.send + p.return) * (p.polarity === 'inverted' ? -1 : 1))
    for (const delay of this.delays) delay.set((p.trip / 1000) * this.rate, immediate)
  }

  tick(): void {
    this.glides.tick()
    for (const delay of this.delays) delay.tick()
  }

  process(block: StereoBlock): void {
    this.side(this.delays[0], block.leftAt)
    if (block.stereo) this.side(this.delays[1], block.rightAt)
  }

  private side(delay: SwapDelay, data: Pointer): void {
    const { late } = this
    if (!late) return
    const { dry, wet } = this.mix
    const { kernel } = late.machine
    kernel.copy(late.leftAt, 0, data, 0)
    delay.process(late.leftAt)
    kernel.mix(data, late.leftAt, dry.value, dry.step, wet.value, wet.step)
  }

  reset(): void {
    for (const delay of this.delays) delay.reset()
  }
}
