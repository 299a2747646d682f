import { CHUNK, type Processor, type StereoBlock } from '../base/block'
import { Clipping, type Operation, type Quality } from './clipping'
import { Glides } from '../base/smooth'
import { dbToGain } from '../base/units'
import type { Machine } from '../kernel/machine'

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
  readonly steady = true
  /** dBFS. */
  private readonly glides = new Glides()
  private readonly ceiling = this.glides.add()
  private readonly mix = this.glides.add()
  private sides: { clipping: Clipping; clip: Operation<'stage'>; blend: Operation<'blend'> }[] = []
  private knee = 0

  constructor(private readonly quality: Quality) {
    this.latency = Clipping.latency(quality)
  }

  get still(): boolean {
    return this.glides.still
  }

  prepare(sampleRate: number, machine: Machine): void {
    this.glides.prepare(sampleRate)
    this.sides = [0, 1].map(() => {
      const clipping = new Clipping(this.quality, sampleRate, machine)
      clipping.save()
      return { clipping, clip: clipping.stage({}), blend: clipping.blend(1, 0) }
    })
  }

  set(p: ClipperParams, immediate: boolean): void {
    // the knee, which does not glide, is written with them
    this.glides.wake()
    this.ceiling.set(p.ceiling, immediate)
    this.mix.set(p.mix / 100, immediate)
    this.knee = p.knee / 100
  }

  tick(): void {
    const { ceiling, mix } = this
    this.glides.tick()
    if (this.glides.still) return
    // gain before and behind the clip move together, so that only the ceiling is heard to move
    const gain = dbToGain(-ceiling.value)
    const gainEnd = dbToGain(-(ceiling.value + CHUNK * ceiling.step))
    const out = mix.value / gain
    const outEnd = (mix.value + CHUNK * mix.step) / gainEnd
    for (const { clip, blend } of this.sides) {
      clip.glide('gain', gain, gainEnd)
      clip.put('hardness', this.knee)
      blend.glide('signal', out, outEnd)
      blend.glide('kept', 1 - mix.value, 1 - mix.value - CHUNK * mix.step)
    }
  }

  process(block: StereoBlock): void {
    this.sides[0].clipping.process(block.leftAt)
    if (block.stereo) this.sides[1].clipping.process(block.rightAt)
  }

  reset(): void {
    for (const { clipping } of this.sides) clipping.reset()
  }
}
