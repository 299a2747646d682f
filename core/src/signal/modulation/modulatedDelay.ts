import { CHUNK, spreadToStereo, type Processor, type StereoBlock } from '../base/block'
import { Lfo } from '../base/lfo'
import { setMix } from '../base/mix'
import { OnePole } from '../base/onePole'
import { Ring } from '../base/ring'
import { Glides } from '../base/smooth'

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
/** Share of the other side's copy that is taken off in the dimension form (common practice, no source). */
const ACROSS = 0.35

/**
 * Chorus, flanger, vibrato and doubler: one delay line a side whose length swings. Source: Dattorro, JAES 1997, part 2; Zölzer
 * (ed.), DAFX, 2nd ed. 2011, ch. 2 (delays and swings of each).
 */
export class ModulatedDelay implements Processor<ModulatedDelayParams> {
  readonly latency = 0
  private readonly glides = new Glides()
  private readonly depth = this.glides.add()
  private readonly delay = this.glides.add(0.05)
  private readonly feedback = this.glides.add()
  private readonly spread = this.glides.add()
  private readonly mix = this.glides.mix()
  private readonly tone = this.glides.add()
  private readonly lowLeft = new OnePole()
  private readonly lowRight = new OnePole()
  private readonly echoes = [new Float32Array(CHUNK), new Float32Array(CHUNK)] as const
  private readonly dimension = this.glides.add(0.05)
  private readonly sine = new Lfo()
  private readonly cosine = new Lfo()
  private left = new Ring(1)
  private right = new Ring(1)
  private rate = 48_000
  private toned = false

  prepare(sampleRate: number): void {
    this.glides.prepare(sampleRate)
    this.rate = sampleRate
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
    if (this.tone.moving) {
      this.lowLeft.tune(this.tone.value, this.rate)
      this.lowRight.tune(this.tone.value, this.rate)
    }
    this.sine.tick()
    this.cosine.tick()
  }

  process(block: StereoBlock): void {
    spreadToStereo(block)
    const { left, right } = block
    const [a, b] = this.echoes
    // the right side's swing turns from in step to a quarter period apart, in the dimension form to half a period
    this.side(this.left, left, a, 0)
    this.side(this.right, right, b, this.spread.value)
    if (this.toned) {
      this.lowLeft.low(a)
      this.lowRight.low(b)
    }
    const {
      mix: { dry, wet },
      dimension,
    } = this
    for (let i = 0; i < CHUNK; i++) {
      const across = ACROSS * (dimension.value + i * dimension.step)
      const direct = dry.value + i * dry.step
      const level = wet.value + i * wet.step
      left[i] = left[i] * direct + (a[i] - across * b[i]) * level
      right[i] = right[i] * direct + (b[i] - across * a[i]) * level
    }
  }

  private side(ring: Ring, data: Float32Array, out: Float32Array, apart: number): void {
    const { depth, delay, feedback, sine, cosine, dimension } = this
    // the left side leads; the right one turns with it, a quarter period apart, or against it
    const isRight = ring === this.right
    for (let i = 0; i < CHUNK; i++) {
      const own = sine.value + i * sine.step
      const plain = (1 - apart) * own + apart * (cosine.value + i * cosine.step)
      const against = isRight ? dimension.value + i * dimension.step : 0
      const swing = (1 - against) * plain - against * own
      const length = delay.value + i * delay.step + (depth.value + i * depth.step) * swing
      const echo = ring.between(Math.max(2, length))
      ring.push(data[i] + echo * (feedback.value + i * feedback.step))
      out[i] = echo
    }
  }

  reset(): void {
    this.left.reset()
    this.right.reset()
    this.lowLeft.reset()
    this.lowRight.reset()
    this.sine.reset()
    this.cosine.reset()
  }
}
