import { CHUNK, spreadToStereo, type Processor, type StereoBlock } from '../base/block'
import { Lfo, type LfoShape } from '../base/lfo'
import { setMix } from '../base/mix'
import { Glides } from '../base/smooth'

export interface PhaseShifterParams {
  /** Hz. */
  rate: number
  /** %. */
  depth: number
  /** %. */
  feedback: number
  /** Number of stages as text. */
  stages?: string
  /** %: depth of the notches. */
  intensity?: number
  /** % of half a turn by which the right side's sweep lies apart. */
  spread?: number
  /** %. */
  mix: number
}

/** How the allpasses lie to each other and what sweeps them. */
export interface PhaseShifterDesign {
  readonly lowHz: number
  readonly highHz: number
  /** Corner of each stage over the common one; repeated for more stages. */
  readonly ratios: readonly number[]
  readonly stages: number
  readonly shape: LfoShape
}

/** Phaser and vibe: first-order allpasses in a row beside the dry signal, swept together. Source: Zölzer, DAFX, 2nd ed. 2011, ch. 2. */
export class PhaseShifter implements Processor<PhaseShifterParams> {
  readonly latency = 0
  private readonly glides = new Glides()
  private readonly depth = this.glides.add()
  private readonly feedback = this.glides.add()
  private readonly mix = this.glides.mix()
  private readonly intensity = this.glides.add()
  private readonly spread = this.glides.add()
  private readonly lfo = new Lfo()
  private readonly left = new Side()
  private readonly right = new Side()
  private rate = 48_000
  private count: number

  constructor(private readonly design: PhaseShifterDesign) {
    this.count = design.stages
  }

  prepare(sampleRate: number): void {
    this.glides.prepare(sampleRate)
    this.rate = sampleRate
    this.lfo.prepare(sampleRate)
  }

  set(p: PhaseShifterParams, immediate: boolean): void {
    this.depth.set(p.depth / 100, immediate)
    this.feedback.set(p.feedback / 100, immediate)
    setMix(this.mix, p.mix, immediate)
    this.intensity.set((p.intensity ?? 100) / 100, immediate)
    this.spread.set((p.spread ?? 0) / 100, immediate)
    this.lfo.set(p.rate, this.design.shape)
    this.count = p.stages === undefined ? this.design.stages : Number(p.stages)
    if (immediate) this.sweepBoth()
  }

  tick(): void {
    this.glides.tick()
    this.lfo.tick()
    this.left.begin()
    this.right.begin()
    this.sweepBoth()
    this.left.glide()
    this.right.glide()
  }

  /** Coefficients at the end of the chunk; the right side's sweep leans towards the opposite of the left's. */
  private sweepBoth(): void {
    const swing = this.lfo.value + CHUNK * this.lfo.step
    this.sweep(this.left.nexts, swing)
    this.sweep(this.right.nexts, swing * (1 - 2 * this.spread.value))
  }

  private sweep(nexts: Float64Array, swing: number): void {
    const { lowHz, highHz, ratios } = this.design
    const hz = lowHz * Math.pow(highHz / lowHz, 0.5 + 0.5 * this.depth.value * swing)
    for (let s = 0; s < 8; s++) {
      const t = Math.tan(Math.PI * Math.min(0.45, (hz * ratios[s % ratios.length]) / this.rate))
      nexts[s] = (t - 1) / (t + 1)
    }
  }

  process(block: StereoBlock): void {
    spreadToStereo(block)
    this.side(this.left, block.left)
    this.side(this.right, block.right)
  }

  private side({ states, coefficients, slopes }: Side, data: Float32Array): void {
    const {
      feedback,
      mix: { dry, wet },
      count,
      intensity,
    } = this
    let last = states[8]
    for (let i = 0; i < CHUNK; i++) {
      const x = data[i]
      let y = x + last * (feedback.value + i * feedback.step)
      for (let s = 0; s < count; s++) {
        const a = coefficients[s] + i * slopes[s]
        const out = a * y + states[s]
        states[s] = y - a * out
        y = out
      }
      last = y
      y = x + (y - x) * (intensity.value + i * intensity.step)
      data[i] = x * (dry.value + i * dry.step) + y * (wet.value + i * wet.step)
    }
    states[8] = last
  }

  reset(): void {
    this.left.states.fill(0)
    this.right.states.fill(0)
    this.lfo.reset()
  }
}

/** One side's allpasses: their coefficients over a chunk, and what they remember; the last state is the feedback's. */
class Side {
  readonly coefficients = new Float64Array(8)
  readonly slopes = new Float64Array(8)
  readonly nexts = new Float64Array(8)
  readonly states = new Float64Array(9)

  begin(): void {
    this.coefficients.set(this.nexts)
  }

  glide(): void {
    for (let s = 0; s < 8; s++) this.slopes[s] = (this.nexts[s] - this.coefficients[s]) / CHUNK
  }
}

/** Four to eight equal stages, triangle sweep. */
export const PHASER: PhaseShifterDesign = { lowHz: 200, highHz: 2_400, ratios: [1], stages: 4, shape: 'triangle' }
/** Four stages with capacitors two decades apart, swept by a lamp. */
export const VIBE: PhaseShifterDesign = { lowHz: 90, highHz: 1_100, ratios: [1, 0.07, 32, 3.2], stages: 4, shape: 'throb' }
