import type { Processor, StereoBlock } from './block'
import { Smooth } from './smooth'
import { dbToGain } from './units'

export interface TrimParams {
  /** dB. */
  level: number
}

/** Plain gain. */
export class Trim implements Processor<TrimParams> {
  readonly latency = 0
  private readonly level = new Smooth()

  prepare(sampleRate: number): void {
    this.level.prepare(sampleRate)
  }

  set(p: TrimParams, immediate: boolean): void {
    this.level.set(dbToGain(p.level), immediate)
  }

  tick(): void {
    this.level.tick()
  }

  process(block: StereoBlock, frames: number): void {
    const { left, right, stereo, at } = block
    const { value, step } = this.level
    for (let i = 0; i < frames; i++) left[i] *= value + (at + i) * step
    if (stereo) for (let i = 0; i < frames; i++) right[i] *= value + (at + i) * step
  }

  reset(): void {}
}
