import { spreadToStereo, type Processor, type StereoBlock } from './block'
import { Lfo } from './lfo'
import { mixGains } from './mix'
import { Ring } from './ring'
import { Smooth } from './smooth'

export interface ModulatedDelayParams {
  /** Hz. */
  rate: number
  /** ms of swing to each side of the delay. */
  depth: number
  /** ms. */
  delay: number
  /** %, negative turns the fed back sound over. */
  feedback: number
  /** % by which the right side's swing runs apart from the left's. */
  spread: number
  /** %. */
  mix: number
}

/** Longest delay with its swing, ms. */
const MOST_MS = 60

/**
 * Chorus, flanger, vibrato and doubler: one delay line a side whose length swings. Source: Dattorro, JAES 1997, part 2; Zölzer
 * (ed.), DAFX, 2nd ed. 2011, ch. 2 (delays and swings of each).
 */
export class ModulatedDelay implements Processor<ModulatedDelayParams> {
  readonly latency = 0
  private readonly depth = new Smooth()
  private readonly delay = new Smooth()
  private readonly feedback = new Smooth()
  private readonly spread = new Smooth()
  private readonly dry = new Smooth()
  private readonly wet = new Smooth()
  private readonly sine = new Lfo()
  private readonly cosine = new Lfo()
  private left = new Ring(1)
  private right = new Ring(1)
  private rate = 48_000

  prepare(sampleRate: number): void {
    this.rate = sampleRate
    for (const s of [this.depth, this.delay, this.feedback, this.spread, this.dry, this.wet]) s.prepare(sampleRate)
    this.delay.prepare(sampleRate, 0.05)
    this.sine.prepare(sampleRate)
    this.cosine.prepare(sampleRate, 0.25)
    const frames = Math.ceil((MOST_MS / 1000) * sampleRate) + 8
    this.left = new Ring(frames)
    this.right = new Ring(frames)
  }

  set(p: ModulatedDelayParams, immediate: boolean): void {
    const frames = (ms: number) => (ms / 1000) * this.rate
    this.depth.set(frames(Math.min(p.depth, p.delay - 0.1)), immediate)
    this.delay.set(frames(p.delay), immediate)
    this.feedback.set(p.feedback / 100, immediate)
    this.spread.set(p.spread / 100, immediate)
    const { dry, wet } = mixGains(p.mix)
    this.dry.set(dry, immediate)
    this.wet.set(wet, immediate)
    this.sine.set(p.rate, 'sine')
    this.cosine.set(p.rate, 'sine')
  }

  tick(): void {
    this.depth.tick()
    this.delay.tick()
    this.feedback.tick()
    this.spread.tick()
    this.dry.tick()
    this.wet.tick()
    this.sine.tick()
    this.cosine.tick()
  }

  process(block: StereoBlock, frames: number): void {
    spreadToStereo(block, frames)
    // the right side's swing turns from in step to a quarter period apart
    this.side(this.left, block.left, block.at, frames, 0)
    this.side(this.right, block.right, block.at, frames, this.spread.value)
  }

  private side(ring: Ring, data: Float64Array, at: number, frames: number, apart: number): void {
    const { depth, delay, feedback, dry, wet, sine, cosine } = this
    for (let i = 0; i < frames; i++) {
      const k = at + i
      const swing = (1 - apart) * (sine.value + k * sine.step) + apart * (cosine.value + k * cosine.step)
      const length = delay.value + k * delay.step + (depth.value + k * depth.step) * swing
      const echo = ring.between(Math.max(2, length))
      const x = data[i]
      ring.push(x + echo * (feedback.value + k * feedback.step))
      data[i] = x * (dry.value + k * dry.step) + echo * (wet.value + k * wet.step)
    }
  }

  reset(): void {
    this.left.reset()
    this.right.reset()
    this.sine.reset()
    this.cosine.reset()
  }
}
