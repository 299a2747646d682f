import { spreadToStereo, type Processor, type StereoBlock } from '../base/block'
import { Lfo } from '../base/lfo'
import { setMix } from '../base/mix'
import { onePoleCoefficient } from '../base/onePole'
import { ringSize } from '../base/ring'
import { Glides, putMoving } from '../base/smooth'
import type { Machine, Pointer } from '../kernel/machine'

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
  /** Hz: high cut of the copies; none where absent. */
  tone?: number
  /** Both copies swing against each other and each is taken off the other side: width without a swing that one hears. */
  dimension?: boolean
  /** %. */
  mix: number
}

/** Longest delay with its swing, ms. */
const MOST_MS = 60
/** From here on the copies' tone is open. */
const OPEN_HZ = 20_000

/**
 * Chorus, flanger, vibrato and doubler: one delay line a side whose length swings. Source: Dattorro, JAES 1997, part 2; Zölzer
 * (ed.), DAFX, 2nd ed. 2011, ch. 2 (delays and swings of each).
 */
export class ModulatedDelay implements Processor<ModulatedDelayParams> {
  readonly latency = 0
  readonly steady = true
  private readonly glides = new Glides()
  private readonly depth = this.glides.add()
  private readonly delay = this.glides.add(0.05)
  private readonly feedback = this.glides.add()
  private readonly spread = this.glides.add()
  private readonly mix = this.glides.mix()
  private readonly tone = this.glides.add()
  private readonly dimension = this.glides.add(0.05)
  private readonly sine = new Lfo()
  private readonly cosine = new Lfo()
  private machine: Machine | null = null
  private at: Pointer = 0
  /** What the kernel is told, in the order of its struct (core/kernel/effects/modulatedDelay.ts). */
  private numbers = new Float64Array(LOW + 1)
  private rate = 48_000
  private toned = false

  prepare(sampleRate: number, machine: Machine): void {
    this.glides.prepare(sampleRate)
    this.rate = sampleRate
    this.sine.prepare(sampleRate)
    this.cosine.prepare(sampleRate, 0.25)
    const frames = Math.ceil((MOST_MS / 1000) * sampleRate) + 8
    this.machine = machine
    this.at = machine.make((kernel) => kernel.modulatedDelayCreate(ringSize(frames)))
    machine.keep((buffer) => (this.numbers = new Float64Array(buffer, this.at, LOW + 1)))
  }

  set(p: ModulatedDelayParams, immediate: boolean): void {
    const frames = (ms: number) => (ms / 1000) * this.rate
    this.depth.set(frames(Math.min(p.depth, p.delay - 0.1)), immediate)
    this.delay.set(frames(p.delay), immediate)
    this.feedback.set(p.feedback / 100, immediate)
    this.spread.set(p.spread / 100, immediate)
    setMix(this.mix, p.mix, immediate)
    // a filter that comes in only when it is needed would begin in the middle of the sound
    this.toned = p.tone !== undefined
    this.tone.set(p.tone ?? OPEN_HZ, immediate)
    this.dimension.set(p.dimension === true ? 1 : 0, immediate)
    this.sine.set(p.rate, 'sine')
    this.cosine.set(p.rate, 'sine')
  }

  tick(): void {
    this.glides.tick()
    this.sine.tick()
    this.cosine.tick()
    const { numbers, mix } = this
    putMoving(numbers, 0, this.depth)
    putMoving(numbers, 1, this.delay)
    putMoving(numbers, 2, this.feedback)
    putMoving(numbers, 3, mix.dry)
    putMoving(numbers, 4, mix.wet)
    putMoving(numbers, 5, this.dimension)
    putMoving(numbers, 6, this.sine)
    putMoving(numbers, 7, this.cosine)
    // the right side's swing turns from in step to a quarter period apart, in the dimension form to half a period
    numbers[APART] = this.spread.value
    if (this.toned && this.tone.moving) numbers[LOW] = onePoleCoefficient(this.tone.value, this.rate)
  }

  process(block: StereoBlock): void {
    spreadToStereo(block)
    this.machine?.kernel.modulatedDelayProcess(this.at, block.leftAt, block.rightAt)
  }

  reset(): void {
    this.machine?.kernel.modulatedDelayReset(this.at)
    this.sine.reset()
    this.cosine.reset()
  }
}

/** Behind eight pairs of value and step stand how far the right side is apart, and the tone's coefficient, 0 for none. */
const APART = 16
const LOW = 17
