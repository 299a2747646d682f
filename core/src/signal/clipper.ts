import type { Processor, StereoBlock } from './block'
import { Clipping, type Operation, type Quality } from './clipping'
import { Smooth } from './smooth'
import { dbToGain } from './units'

export interface ClipperParams {
  /** dBFS at which it clips. */
  ceiling: number
  /** %: 0 soft, 100 hard. */
  knee: number
  /** %. */
  mix: number
}

/** One oversampled clip on each side at a ceiling, with the unclipped sound beside it. Source: Parker, Zavalishin, Le Bivic, DAFx-16. */
export class Clipper implements Processor<ClipperParams> {
  readonly latency: number
  private readonly gain = new Smooth()
  private readonly clipped = new Smooth()
  private readonly plain = new Smooth()
  private sides: { clipping: Clipping; clip: Operation; blend: Operation }[] = []
  private knee = 0

  constructor(private readonly quality: Quality) {
    this.latency = Clipping.latency(quality)
  }

  prepare(sampleRate: number): void {
    for (const s of [this.gain, this.clipped, this.plain]) s.prepare(sampleRate)
    this.sides = [0, 1].map(() => {
      const clipping = new Clipping(this.quality, sampleRate)
      clipping.save()
      return { clipping, clip: clipping.stage({}), blend: clipping.blend(1, 0) }
    })
  }

  set(p: ClipperParams, immediate: boolean): void {
    this.gain.set(dbToGain(-p.ceiling), immediate)
    this.clipped.set((p.mix / 100) * dbToGain(p.ceiling), immediate)
    this.plain.set(1 - p.mix / 100, immediate)
    this.knee = p.knee / 100
  }

  tick(): void {
    this.gain.tick()
    this.clipped.tick()
    this.plain.tick()
    for (const { clip, blend } of this.sides) {
      clip.ramp(1, this.gain)
      clip.put(4, this.knee)
      blend.ramp(1, this.clipped)
      blend.ramp(3, this.plain)
    }
  }

  process(block: StereoBlock, frames: number): void {
    this.sides[0].clipping.process(block.left, frames, block.at)
    if (block.stereo) this.sides[1].clipping.process(block.right, frames, block.at)
  }

  reset(): void {
    for (const { clipping } of this.sides) clipping.reset()
  }
}
