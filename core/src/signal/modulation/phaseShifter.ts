import { CHUNK, spreadToStereo, type Processor, type StereoBlock } from '../base/block'
import { Lfo, type LfoShape } from '../base/lfo'
import { setMix } from '../base/mix'
import { Glides, putMoving } from '../base/smooth'
import type { Machine, Pointer } from '../kernel/machine'

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
  readonly steady = true
  private readonly glides = new Glides()
  private readonly depth = this.glides.add()
  private readonly feedback = this.glides.add()
  private readonly mix = this.glides.mix()
  private readonly intensity = this.glides.add()
  private readonly spread = this.glides.add()
  private readonly lfo = new Lfo()
  private machine: Machine | null = null
  private at: Pointer = 0
  private numbers = new Float64Array(COUNT + 1)
  /** Of each allpass, left and right: its coefficient at the chunk's beginning, how far it moves a frame, and where it arrives. */
  private coefficients = new Float64Array(2 * MOST)
  private slopes = new Float64Array(2 * MOST)
  private readonly nexts = new Float64Array(2 * MOST)
  private rate = 48_000
  private count: number

  constructor(private readonly design: PhaseShifterDesign) {
    this.count = design.stages
  }

  prepare(sampleRate: number, machine: Machine): void {
    this.machine = machine
    this.at = machine.make((kernel) => kernel.phaseShifterCreate())
    machine.keep((buffer) => {
      const { kernel } = machine
      this.numbers = new Float64Array(buffer, this.at, COUNT + 1)
      this.coefficients = new Float64Array(buffer, kernel.phaseShifterCoefficientsAt(this.at), 2 * MOST)
      this.slopes = new Float64Array(buffer, kernel.phaseShifterSlopesAt(this.at), 2 * MOST)
    })
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
    const { numbers, coefficients, slopes, nexts, mix } = this
    putMoving(numbers, 0, this.feedback)
    putMoving(numbers, 1, mix.dry)
    putMoving(numbers, 2, mix.wet)
    putMoving(numbers, 3, this.intensity)
    numbers[COUNT] = this.count
    coefficients.set(nexts)
    this.sweepBoth()
    for (let k = 0; k < nexts.length; k++) slopes[k] = (nexts[k] - coefficients[k]) / CHUNK
  }

  /** Coefficients at the end of the chunk; the right side's sweep leans towards the opposite of the left's. */
  private sweepBoth(): void {
    const swing = this.lfo.value + CHUNK * this.lfo.step
    this.sweep(0, swing)
    this.sweep(1, swing * (1 - 2 * this.spread.value))
  }

  private sweep(side: 0 | 1, swing: number): void {
    const { lowHz, highHz, ratios } = this.design
    const hz = lowHz * Math.pow(highHz / lowHz, 0.5 + 0.5 * this.depth.value * swing)
    for (let s = 0; s < MOST; s++) {
      const t = Math.tan(Math.PI * Math.min(0.45, (hz * ratios[s % ratios.length]) / this.rate))
      this.nexts[2 * s + side] = (t - 1) / (t + 1)
    }
  }

  process(block: StereoBlock): void {
    spreadToStereo(block)
    this.machine?.kernel.phaseShifterProcess(this.at, block.leftAt, block.rightAt)
  }

  reset(): void {
    this.machine?.kernel.phaseShifterReset(this.at)
    this.lfo.reset()
  }
}

/** Allpasses at most. */
const MOST = 8
/** Behind four pairs of value and step stands how many are heard. */
const COUNT = 8

/** Four to eight equal stages, triangle sweep. */
export const PHASER: PhaseShifterDesign = { lowHz: 200, highHz: 2_400, ratios: [1], stages: 4, shape: 'triangle' }
/** Four stages with capacitors two decades apart, swept by a lamp. */
export const VIBE: PhaseShifterDesign = { lowHz: 90, highHz: 1_100, ratios: [1, 0.07, 32, 3.2], stages: 4, shape: 'throb' }
