import type { Processor, StereoBlock } from '../base/block'
import { Biquad, design } from './biquad'
import { Glides, type Smooth } from '../base/smooth'
import type { Machine } from '../kernel/machine'

/** One bell a band at fixed places, each as wide as the bands lie apart. Source: Audio EQ Cookbook (Bristow-Johnson 1998). */
export class GraphicEq implements Processor<Readonly<Record<string, number>>> {
  readonly latency = 0
  private readonly glides = new Glides()
  private readonly gains: readonly Smooth[]
  private readonly filters: readonly Biquad[]
  private readonly flat: boolean[]
  private rate = 48_000

  /** @param bands parameter name and centre in Hz @param q of every bell */
  constructor(
    private readonly bands: readonly (readonly [key: string, hz: number])[],
    private readonly q: number,
  ) {
    this.gains = bands.map(() => this.glides.add())
    this.filters = bands.map(() => new Biquad())
    this.flat = bands.map(() => true)
  }

  get steady(): boolean {
    return this.glides.still
  }

  get still(): boolean {
    return this.steady
  }

  prepare(sampleRate: number, machine: Machine): void {
    for (const filter of this.filters) filter.prepare(machine)
    this.rate = sampleRate
    this.glides.prepare(sampleRate)
  }

  set(p: Readonly<Record<string, number>>, immediate: boolean): void {
    this.bands.forEach(([key], b) => this.gains[b].set(p[key], immediate))
  }

  tick(): void {
    const wasStill = this.glides.still
    this.glides.tick()
    if (wasStill) return
    for (let b = 0; b < this.bands.length; b++) {
      const gain = this.gains[b]
      const filter = this.filters[b]
      filter.tick()
      if (gain.moving) {
        this.flat[b] = false
        design.bell(filter.target, this.bands[b][1], this.q, gain.value, this.rate)
        filter.glide()
      } else if (gain.value === 0 && !this.flat[b]) {
        this.flat[b] = true
        filter.reset()
      }
    }
  }

  process(block: StereoBlock): void {
    for (let b = 0; b < this.filters.length; b++) if (!this.flat[b]) this.filters[b].process(block)
  }

  reset(): void {
    for (const filter of this.filters) filter.reset()
  }
}
