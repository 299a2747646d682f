import { CHUNK, createBlock, spreadToStereo, type Processor, type StereoBlock } from '../base/block'
import { Biquad, design } from '../filters/biquad'
import { Lfo } from '../base/lfo'
import { setMix } from '../base/mix'
import { ChunkRing } from '../base/chunkRing'
import { Glides } from '../base/smooth'
import { SwapDelay } from '../base/swapDelay'
import type { Machine, Pointer } from '../kernel/machine'

export interface ReverbParams {
  /** ms. */
  preDelay: number
  /** s until −60 dB. */
  decay: number
  /** Hz. */
  lowCut: number
  highCut: number
  /** %: how closely reflections lie at the start. */
  density: number
  /** %: how far the tail's pitch wanders. */
  modulation: number
  /** Hz, and % of the decay below it; tanks without a crossover lack both. */
  crossover?: number
  lowDecay?: number
  /** %. */
  mix: number
}

/** What makes the reverberant sound of a mono feed: the only part in which reverbs differ. */
export interface Tank {
  prepare(sampleRate: number, machine: Machine): void
  /**
   * @param decay s until −60 dB, at 1 kHz
   * @param density 0–1
   * @param low share of the decay below the crossover in Hz; 1 is alike
   */
  tune(decay: number, density: number, low: number, crossover: number): void
  /** See {@link Processor.steady}, between two of its tunings. */
  readonly steady?: boolean
  /** Advances what moves by itself by one chunk. */
  tick?(): void
  /** The reverberation alone of what is in `feed` on the left, which may be overwritten. */
  process(feed: StereoBlock, tail: StereoBlock): void
  reset(): void
}

/** Most of the tail's wander to either side, ms, and its two rates in Hz: some ten cents (common practice, no source). */
const WANDER_MS = 1.4
const WANDER_HZ = [0.61, 0.83] as const

/** Pre-delay, cuts, a wandering tail, mix and trails around a tank. */
export class Reverb implements Processor<ReverbParams> {
  readonly latency = 0
  private readonly glides = new Glides()
  private readonly mix = this.glides.mix()
  private readonly decay = this.glides.add(0.12)
  private readonly density = this.glides.add(0.12)
  private readonly lowCut = this.glides.add()
  private readonly highCut = this.glides.add()
  private readonly low = this.glides.add(0.12)
  private readonly crossover = this.glides.add(0.12)
  private readonly wander = this.glides.add()
  private readonly lfos = [new Lfo(), new Lfo()] as const
  private lines: readonly ChunkRing[] = []
  /** Of each side, how far the tail wanders, where in its swing it is, and their steps. */
  private wanderingAt: Pointer = 0
  private wandering = new Float64Array(8)
  private readonly input = this.glides.fade()
  private readonly preDelay = new SwapDelay()
  private readonly cutLow = new Biquad()
  private readonly cutHigh = new Biquad()
  private machine: Machine | null = null
  private feed: StereoBlock | null = null
  private tail: StereoBlock | null = null
  private rate = 48_000

  constructor(private readonly tank: Tank) {}

  get steady(): boolean {
    return this.glides.still && this.input.open && this.preDelay.still && this.tank.steady === true
  }

  get still(): boolean {
    return this.steady && !this.wanders && this.tank.tick === undefined
  }

  prepare(sampleRate: number, machine: Machine): void {
    this.glides.prepare(sampleRate)
    this.machine = machine
    this.feed = createBlock(machine)
    this.tail = createBlock(machine)
    this.cutLow.prepare(machine)
    this.cutHigh.prepare(machine)
    this.rate = sampleRate
    // the loops' gains move in steps, which must be small
    this.lfos.forEach((lfo, side) => {
      lfo.prepare(sampleRate, side / 4)
      lfo.set(WANDER_HZ[side], 'sine')
    })
    const frames = Math.ceil((2.2 * WANDER_MS * sampleRate) / 1000) + 8
    this.lines = [new ChunkRing(frames, machine), new ChunkRing(frames, machine)]
    this.wanderingAt = machine.make((kernel) => kernel.alloc(64))
    machine.keep((buffer) => (this.wandering = new Float64Array(buffer, this.wanderingAt, 8)))
    this.preDelay.prepare(0.26 * sampleRate, sampleRate, machine)
    this.tank.prepare(sampleRate, machine)
  }

  set(p: ReverbParams, immediate: boolean): void {
    setMix(this.mix, p.mix, immediate)
    this.decay.set(p.decay, immediate)
    this.density.set(p.density / 100, immediate)
    this.low.set((p.lowDecay ?? 100) / 100, immediate)
    this.crossover.set(p.crossover ?? 250, immediate)
    this.wander.set((p.modulation / 100) * (WANDER_MS / 1000) * this.rate, immediate)
    this.lowCut.set(p.lowCut, immediate)
    this.highCut.set(p.highCut, immediate)
    this.preDelay.set((p.preDelay / 1000) * this.rate, immediate)
  }

  send(open: boolean, immediate: boolean): void {
    this.input.set(open, immediate)
  }

  tick(): void {
    this.glides.tick()
    if (this.wanders) this.turn()
    this.preDelay.tick()
    this.tank.tick?.()
    this.cutLow.tick()
    this.cutHigh.tick()
    if (this.lowCut.moving) {
      design.highPass(this.cutLow.target, this.lowCut.value, Math.SQRT1_2, this.rate)
      this.cutLow.glide()
    }
    if (this.highCut.moving) {
      design.lowPass(this.cutHigh.target, this.highCut.value, Math.SQRT1_2, this.rate)
      this.cutHigh.glide()
    }
    const { decay, density, low, crossover } = this
    if (decay.moving || density.moving || low.moving || crossover.moving)
      this.tank.tune(decay.value, density.value, low.value, crossover.value)
  }

  process(block: StereoBlock): void {
    const { dry, wet } = this.mix
    const { input, feed, tail } = this
    const kernel = this.machine?.kernel
    if (!kernel || !feed || !tail) return
    spreadToStereo(block)
    kernel.fold(feed.leftAt, block.leftAt, block.rightAt)
    if (!input.open) kernel.turn(feed.leftAt, 0, input.value, input.step)
    this.preDelay.process(feed.leftAt)
    this.cutLow.process(feed)
    this.cutHigh.process(feed)
    this.tank.process(feed, tail)
    this.bend(0, tail.leftAt)
    this.bend(1, tail.rightAt)
    if (input.open) {
      kernel.mix(block.leftAt, tail.leftAt, dry.value, dry.step, wet.value, wet.step)
      kernel.mix(block.rightAt, tail.rightAt, dry.value, dry.step, wet.value, wet.step)
      return
    }
    const { left, right } = block
    for (let i = 0; i < CHUNK; i++) {
      const open = input.value + i * input.step
      // while the stage is off its dry path is whole
      const direct = (dry.value + i * dry.step) * open + 1 - open
      const level = wet.value + i * wet.step
      left[i] = left[i] * direct + level * tail.left[i]
      right[i] = right[i] * direct + level * tail.right[i]
    }
  }

  private turn(): void {
    const { wander, wandering } = this
    for (let side = 0; side < 2; side++) {
      const lfo = this.lfos[side]
      lfo.tick()
      wandering[4 * side] = wander.value
      wandering[4 * side + 1] = wander.step
      wandering[4 * side + 2] = lfo.value
      wandering[4 * side + 3] = lfo.step
    }
  }

  private get wanders(): boolean {
    return this.wander.value !== 0 || this.wander.step !== 0
  }

  /** The tail through a line whose length wanders. */
  private bend(side: 0 | 1, data: Pointer): void {
    const ring = this.lines[side]
    if (this.wanders) ring.bend(data, this.wanderingAt + 32 * side)
    else ring.pass(data, 2)
  }

  reset(): void {
    for (const line of this.lines) line.reset()
    this.preDelay.reset()
    this.cutLow.reset()
    this.cutHigh.reset()
    this.tank.reset()
  }
}
