import { CHUNK, spreadToStereo, type Processor, type StereoBlock } from '../base/block'
import { Lfo, type LfoShape } from '../base/lfo'
import { Glides } from '../base/smooth'

export interface TremoloParams {
  /** Hz. */
  rate: number
  /** %. */
  depth: number
  shape: LfoShape
  /** %: 0 both sides together, 100 from side to side. */
  spread: number
}

/** Level that swings; the loudest moment stays at unity. Source: Zölzer (ed.), DAFX, 2nd ed. 2011, ch. 3. */
export class Tremolo implements Processor<TremoloParams> {
  readonly latency = 0
  private readonly glides = new Glides()
  private readonly depth = this.glides.add()
  private readonly spread = this.glides.add()
  private readonly lfo = new Lfo()

  prepare(sampleRate: number): void {
    this.glides.prepare(sampleRate)
    this.lfo.prepare(sampleRate)
  }

  set(p: TremoloParams, immediate: boolean): void {
    this.depth.set(p.depth / 100, immediate)
    this.spread.set(p.spread / 100, immediate)
    this.lfo.set(p.rate, p.shape)
  }

  tick(): void {
    this.glides.tick()
    this.lfo.tick()
  }

  process(block: StereoBlock): void {
    const { depth, spread, lfo } = this
    const { left, right } = block
    const apart = spread.value !== 0 || spread.step !== 0
    if (apart) spreadToStereo(block)
    for (let i = 0; i < CHUNK; i++) {
      const d = depth.value + i * depth.step
      const swing = lfo.value + i * lfo.step
      const other = swing * (1 - 2 * (spread.value + i * spread.step))
      left[i] *= 1 - d * 0.5 * (1 - swing)
      if (block.stereo) right[i] *= 1 - d * 0.5 * (1 - other)
    }
  }

  reset(): void {
    this.lfo.reset()
  }
}
