import { rightOf, type Processor, type StereoBlock } from '../base/block'
import { Biquad, design } from '../filters/biquad'
import { Glides } from '../base/smooth'
import { dbToGain } from '../base/units'
import type { Machine } from '../kernel/machine'

export interface CleanBoostParams {
  /** dB. */
  boost: number
  bright: 'off' | 'on'
}

/** Linear gain with a bright switch: a shelf of 6 dB above 2.5 kHz. */
export class CleanBoost implements Processor<CleanBoostParams> {
  readonly latency = 0
  private readonly glides = new Glides()
  private readonly gain = this.glides.add()
  private readonly bright = this.glides.add()
  private readonly shelf = new Biquad()
  private rate = 48_000

  get steady(): boolean {
    return this.glides.still
  }

  get still(): boolean {
    return this.steady
  }

  prepare(sampleRate: number, machine: Machine): void {
    this.shelf.prepare(machine)
    this.glides.prepare(sampleRate)
    this.rate = sampleRate
  }

  set(p: CleanBoostParams, immediate: boolean): void {
    this.gain.set(dbToGain(p.boost), immediate)
    this.bright.set(p.bright === 'on' ? 6 : 0, immediate)
  }

  tick(): void {
    this.glides.tick()
    this.shelf.tick()
    if (!this.bright.moving) return
    design.highShelf(this.shelf.target, 2_500, this.bright.value, this.rate)
    this.shelf.glide()
  }

  process(block: StereoBlock): void {
    const { value, step } = this.gain
    block.machine.kernel.turn(block.leftAt, rightOf(block), value, step)
    this.shelf.process(block)
  }

  reset(): void {
    this.shelf.reset()
  }
}
