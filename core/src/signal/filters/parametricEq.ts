import type { Processor, StereoBlock } from '../base/block'
import { Biquad, design, type Section } from './biquad'
import { Glides, type Smooth } from '../base/smooth'
import type { Machine } from '../kernel/machine'

export type Slope = 'off' | '6' | '12' | '24'

export interface ParametricEqParams {
  lowCut: number
  lowSlope: Slope
  lowShelf: number
  lowGain: number
  bell1: number
  gain1: number
  q1: number
  bell2: number
  gain2: number
  q2: number
  bell3: number
  gain3: number
  q3: number
  highShelf: number
  highGain: number
  highCut: number
  highSlope: Slope
}

const NUMBERS = [
  'lowCut',
  'lowShelf',
  'lowGain',
  'bell1',
  'gain1',
  'q1',
  'bell2',
  'gain2',
  'q2',
  'bell3',
  'gain3',
  'q3',
  'highShelf',
  'highGain',
  'highCut',
] as const
type NumberKey = (typeof NUMBERS)[number]

/** Butterworth Qs of the two sections of a fourth-order cut. */
export const FOURTH_ORDER_Q = [0.541_196_1, 1.306_563]

/**
 * Low cut, low shelf, three bells, high shelf, high cut. Sections after the Audio EQ Cookbook (Bristow-Johnson 1998); cuts are
 * first-order, Butterworth second-order or fourth-order, −3.0 dB at their corner whichever the slope.
 */
export class ParametricEq implements Processor<ParametricEqParams> {
  readonly latency = 0
  private readonly glides = new Glides()
  private readonly smooth = Object.fromEntries(NUMBERS.map((key) => [key, this.glides.add()])) as Record<NumberKey, Smooth>
  private readonly bands: Band[]
  private restless = 4
  private rate = 48_000
  private lowSlope: Slope = 'off'
  private highSlope: Slope = 'off'

  constructor() {
    const s = this.smooth
    this.bands = [
      new Band(
        [s.lowCut],
        () => this.lowSlope === 'off',
        (out) => this.cut(out, 'low', 0),
      ),
      new Band(
        [s.lowCut],
        () => this.lowSlope !== '24',
        (out) => this.cut(out, 'low', 1),
      ),
      new Band(
        [s.lowShelf, s.lowGain],
        () => s.lowGain.value === 0,
        (out) => design.lowShelf(out, s.lowShelf.value, s.lowGain.value, this.rate),
      ),
      new Band(
        [s.bell1, s.gain1, s.q1],
        () => s.gain1.value === 0,
        (out) => design.bell(out, s.bell1.value, s.q1.value, s.gain1.value, this.rate),
      ),
      new Band(
        [s.bell2, s.gain2, s.q2],
        () => s.gain2.value === 0,
        (out) => design.bell(out, s.bell2.value, s.q2.value, s.gain2.value, this.rate),
      ),
      new Band(
        [s.bell3, s.gain3, s.q3],
        () => s.gain3.value === 0,
        (out) => design.bell(out, s.bell3.value, s.q3.value, s.gain3.value, this.rate),
      ),
      new Band(
        [s.highShelf, s.highGain],
        () => s.highGain.value === 0,
        (out) => design.highShelf(out, s.highShelf.value, s.highGain.value, this.rate),
      ),
      new Band(
        [s.highCut],
        () => this.highSlope === 'off',
        (out) => this.cut(out, 'high', 0),
      ),
      new Band(
        [s.highCut],
        () => this.highSlope !== '24',
        (out) => this.cut(out, 'high', 1),
      ),
    ]
  }

  private cut(out: Section, side: 'low' | 'high', part: 0 | 1): void {
    const slope = side === 'low' ? this.lowSlope : this.highSlope
    const hz = side === 'low' ? this.smooth.lowCut.value : this.smooth.highCut.value
    const q = slope === '24' ? FOURTH_ORDER_Q[part] : Math.SQRT1_2
    if (side === 'low') {
      if (slope === '6') design.highPass6(out, hz, this.rate)
      else design.highPass(out, hz, q, this.rate)
    } else if (slope === '6') design.lowPass6(out, hz, this.rate)
    else design.lowPass(out, hz, q, this.rate)
  }

  get steady(): boolean {
    return this.glides.still && this.restless === 0
  }

  get still(): boolean {
    return this.steady
  }

  prepare(sampleRate: number, machine: Machine): void {
    for (const band of this.bands) band.prepare(machine)
    this.rate = sampleRate
    this.glides.prepare(sampleRate)
  }

  /** Slopes are not smoothed here: the stage crossfades to a second instance when one changes. */
  set(p: ParametricEqParams, immediate: boolean): void {
    for (const key of NUMBERS) this.smooth[key].set(p[key], immediate)
    this.restless = 4
    this.lowSlope = p.lowSlope
    this.highSlope = p.highSlope
  }

  tick(): void {
    this.glides.tick()
    // a few ticks more after the last move, in which bands arrive and fall asleep
    if (!this.glides.still) this.restless = 4
    if (this.restless === 0) return
    this.restless--
    for (const band of this.bands) band.tick()
  }

  process(block: StereoBlock): void {
    for (const band of this.bands) band.process(block)
  }

  reset(): void {
    for (const band of this.bands) band.reset()
  }
}

/** One section that is designed anew while its parameters move and costs nothing while it is flat. */
class Band {
  private readonly biquad = new Biquad()
  private flat = true
  private asleep = true

  constructor(
    private readonly inputs: readonly Smooth[],
    private readonly isFlat: () => boolean,
    private readonly write: (out: Section) => void,
  ) {}

  prepare(machine: Machine): void {
    this.biquad.prepare(machine)
  }

  tick(): void {
    const { biquad } = this
    biquad.tick()
    const moving = this.inputs.some(isMoving)
    const flat = !moving && this.isFlat()
    // a band that becomes flat glides there first
    if (flat && this.flat) {
      if (!this.asleep) biquad.reset()
      this.asleep = true
    }
    const changes = moving || flat !== this.flat
    this.flat = flat
    if (!changes) return
    this.asleep = false
    if (this.isFlat()) design.flat(biquad.target)
    else this.write(biquad.target)
    biquad.glide()
  }

  process(block: StereoBlock): void {
    if (!this.asleep) this.biquad.process(block)
  }

  reset(): void {
    this.biquad.reset()
  }
}

const isMoving = (smooth: Smooth): boolean => smooth.moving
