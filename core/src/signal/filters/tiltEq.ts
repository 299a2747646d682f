import type { Processor, StereoBlock } from '../base/block'
import { Biquad, design } from './biquad'
import { Glides } from '../base/smooth'
import type { Machine } from '../kernel/machine'

export interface TiltEqParams {
  /** dB at the top; the bottom moves as far the other way. */
  tilt: number
  /** Hz that stays where it is. */
  pivot: number
}

/** Two shelves about one pivot. Source: Audio EQ Cookbook (Bristow-Johnson 1998). */
export class TiltEq implements Processor<TiltEqParams> {
  readonly latency = 0
  private readonly glides = new Glides()
  private readonly tilt = this.glides.add()
  private readonly pivot = this.glides.add()
  private readonly low = new Biquad()
  private readonly high = new Biquad()
  private rate = 48_000

  get steady(): boolean {
    return this.glides.still
  }

  get still(): boolean {
    return this.steady
  }

  prepare(sampleRate: number, machine: Machine): void {
    this.low.prepare(machine)
    this.high.prepare(machine)
    this.glides.prepare(sampleRate)
    this.rate = sampleRate
  }

  set(p: TiltEqParams, immediate: boolean): void {
    this.tilt.set(p.tilt, immediate)
    this.pivot.set(p.pivot, immediate)
  }

  tick(): void {
    this.glides.tick()
    this.low.tick()
    this.high.tick()
    if (!this.tilt.moving && !this.pivot.moving) return
    design.lowShelf(this.low.target, this.pivot.value, -this.tilt.value, this.rate)
    design.highShelf(this.high.target, this.pivot.value, this.tilt.value, this.rate)
    this.low.glide()
    this.high.glide()
  }

  process(block: StereoBlock): void {
    this.low.process(block)
    this.high.process(block)
  }

  reset(): void {
    this.low.reset()
    this.high.reset()
  }
}
