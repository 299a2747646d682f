import { CHUNK, spreadToStereo, type Processor, type StereoBlock } from '../base/block'
import { Biquad, design } from '../filters/biquad'
import { Lfo } from '../base/lfo'
import { setMix } from '../base/mix'
import { Ring } from '../base/ring'
import { Glides } from '../base/smooth'
import { SwapDelay } from '../base/swapDelay'

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
  prepare(sampleRate: number): void
  /**
   * @param decay s until −60 dB, at 1 kHz
   * @param density 0–1
   * @param low share of the decay below the crossover in Hz; 1 is alike
   */
  tune(decay: number, density: number, low: number, crossover: number): void
  /** Advances what moves by itself by one chunk. */
  tick?(): void
  /** The reverberation alone; `feed` may be overwritten. `at` is the place within the chunk. */
  process(feed: Float64Array, left: Float64Array, right: Float64Array, at: number, frames: number): void
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
  private lines = [new Ring(1), new Ring(1)] as const
  private readonly input = this.glides.fade()
  private readonly preDelay = new SwapDelay()
  private readonly cutLow = new Biquad()
  private readonly cutHigh = new Biquad()
  private readonly feed: StereoBlock
  private readonly left = new Float64Array(CHUNK)
  private readonly right = new Float64Array(CHUNK)
  private rate = 48_000

  constructor(private readonly tank: Tank) {
    const line = new Float64Array(CHUNK)
    this.feed = { left: line, right: line, key: line, stereo: false, at: 0 }
  }

  prepare(sampleRate: number): void {
    this.glides.prepare(sampleRate)
    this.rate = sampleRate
    // the loops' gains move in steps, which must be small
    this.lfos.forEach((lfo, side) => {
      lfo.prepare(sampleRate, side / 4)
      lfo.set(WANDER_HZ[side], 'sine')
    })
    const frames = Math.ceil((2.2 * WANDER_MS * sampleRate) / 1000) + 8
    this.lines = [new Ring(frames), new Ring(frames)]
    this.preDelay.prepare(0.26 * sampleRate, sampleRate)
    this.tank.prepare(sampleRate)
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
    for (const lfo of this.lfos) lfo.tick()
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

  process(block: StereoBlock, frames: number): void {
    spreadToStereo(block, frames)
    const {
      mix: { dry, wet },
      input,
      feed,
    } = this
    const { left, right, at } = block
    const line = feed.left
    const still = input.open && dry.step === 0 && wet.step === 0
    if (input.open) for (let i = 0; i < frames; i++) line[i] = 0.5 * (left[i] + right[i])
    else for (let i = 0; i < frames; i++) line[i] = 0.5 * (left[i] + right[i]) * (input.value + (at + i) * input.step)
    this.preDelay.process(line, at, frames)
    feed.at = at
    this.cutLow.process(feed, frames)
    this.cutHigh.process(feed, frames)
    const { left: l, right: r } = this
    this.tank.process(line, l, r, at, frames)
    this.bend(0, l, at, frames)
    this.bend(1, r, at, frames)
    if (still) {
      const direct = dry.value
      const level = wet.value
      for (let i = 0; i < frames; i++) {
        left[i] = left[i] * direct + level * l[i]
        right[i] = right[i] * direct + level * r[i]
      }
      return
    }
    for (let i = 0; i < frames; i++) {
      const k = at + i
      const open = input.value + k * input.step
      // while the stage is off its dry path is whole
      const direct = (dry.value + k * dry.step) * open + 1 - open
      const level = wet.value + k * wet.step
      left[i] = left[i] * direct + level * l[i]
      right[i] = right[i] * direct + level * r[i]
    }
  }

  /** The tail through a line whose length wanders. */
  private bend(side: 0 | 1, data: Float64Array, at: number, frames: number): void {
    const { value, step } = this.wander
    const ring = this.lines[side]
    const lfo = this.lfos[side]
    if (value === 0 && step === 0) {
      ring.passTwo(data, frames)
      return
    }
    for (let i = 0; i < frames; i++) {
      const k = at + i
      const depth = value + k * step
      const y = ring.between(2 + depth * (1 + lfo.value + k * lfo.step))
      ring.push(data[i])
      data[i] = y
    }
  }

  reset(): void {
    for (const line of this.lines) line.reset()
    this.preDelay.reset()
    this.cutLow.reset()
    this.cutHigh.reset()
    this.tank.reset()
  }
}
