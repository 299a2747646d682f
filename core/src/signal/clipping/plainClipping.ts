import { FIRST_HALF_BAND, SECOND_HALF_BAND } from '../filters/halfBand'

/** Two chains of first-order allpasses, coefficients dealt out in turn; works in place on the two paths. */
class AllpassPair {
  private readonly x: Float64Array
  private readonly y: Float64Array

  constructor(private readonly coefficients: Float64Array) {
    this.x = new Float64Array(coefficients.length)
    this.y = new Float64Array(coefficients.length)
  }

  process(even: Float64Array, odd: Float64Array, frames: number): void {
    const { coefficients, x, y } = this
    let c = 0
    for (; c + 1 < coefficients.length; c += 2) {
      const ca = coefficients[c]
      const cb = coefficients[c + 1]
      let xa = x[c]
      let ya = y[c]
      let xb = x[c + 1]
      let yb = y[c + 1]
      for (let i = 0; i < frames; i++) {
        const a = even[i]
        const b = odd[i]
        ya = (a - ya) * ca + xa
        yb = (b - yb) * cb + xb
        xa = a
        xb = b
        even[i] = ya
        odd[i] = yb
      }
      x[c] = xa
      y[c] = ya
      x[c + 1] = xb
      y[c + 1] = yb
    }
    if (c < coefficients.length) {
      const ca = coefficients[c]
      let xa = x[c]
      let ya = y[c]
      for (let i = 0; i < frames; i++) {
        const a = even[i]
        ya = (a - ya) * ca + xa
        xa = a
        even[i] = ya
      }
      x[c] = xa
      y[c] = ya
    }
  }

  reset(): void {
    this.x.fill(0)
    this.y.fill(0)
  }
}

/** One octave of rate, up and down. */
class HalfBand {
  private readonly up: AllpassPair
  private readonly down: AllpassPair
  private readonly even: Float64Array
  private readonly odd: Float64Array

  constructor(coefficients: Float64Array, maxFrames: number) {
    this.up = new AllpassPair(coefficients)
    this.down = new AllpassPair(coefficients)
    this.even = new Float64Array(maxFrames)
    this.odd = new Float64Array(maxFrames)
  }

  raise(input: Float64Array, output: Float64Array, frames: number): void {
    const { even, odd } = this
    for (let i = 0; i < frames; i++) even[i] = odd[i] = input[i]
    this.up.process(even, odd, frames)
    for (let i = 0; i < frames; i++) {
      output[2 * i] = even[i]
      output[2 * i + 1] = odd[i]
    }
  }

  lower(input: Float64Array, output: Float64Array, frames: number): void {
    const { even, odd } = this
    for (let i = 0; i < frames; i++) {
      even[i] = input[2 * i + 1]
      odd[i] = input[2 * i]
    }
    this.down.process(even, odd, frames)
    for (let i = 0; i < frames; i++) output[i] = 0.5 * (even[i] + odd[i])
  }

  reset(): void {
    this.up.reset()
    this.down.reset()
  }
}

/** Plain form of the up and down sampling in core/kernel/effects/clipping.ts. */
export class Oversampler4 {
  /** The chunk at four times the rate: 4 × frames samples. */
  readonly data: Float64Array
  private readonly first: HalfBand
  private readonly second: HalfBand
  private readonly double: Float64Array

  constructor(maxFrames: number) {
    this.data = new Float64Array(maxFrames * 4)
    this.double = new Float64Array(maxFrames * 2)
    this.first = new HalfBand(FIRST_HALF_BAND, maxFrames)
    this.second = new HalfBand(SECOND_HALF_BAND, maxFrames * 2)
  }

  raise(input: Float64Array, frames: number): void {
    this.first.raise(input, this.double, frames)
    this.second.raise(this.double, this.data, frames * 2)
  }

  lower(output: Float64Array, frames: number): void {
    this.second.lower(this.data, this.double, frames * 2)
    this.first.lower(this.double, output, frames)
  }

  reset(): void {
    this.first.reset()
    this.second.reset()
  }
}

const DROOP = 0.20710678

/**
 * Plain form of the clip in core/kernel/effects/clipping.ts.
 *
 * Memoryless soft clip x/√(1+x²) about a bias, in first-order antiderivative form, which suppresses the aliases of the clip:
 * (x₁+x₀)/(√(1+x₁²)+√(1+x₀²)), closed and without a division by zero. The mean of two neighbours that this form takes droops
 * towards the top of the band; (1 + d) − d·z⁻¹ with d(1 + d) = ¼ lifts it again (0.1 dB at 20 kHz at four times 48 kHz).
 * Source: Parker, Zavalishin, Le Bivic, DAFx-16.
 */
export class SoftClip {
  private x = 0
  private last = 0

  /**
   * Clips in place: data ← f(gain·x + bias) − f(bias). Small signals pass with gain·f′(bias).
   * `gain` moves by `gainStep` a sample, counted from sample `−at`.
   */
  process(data: Float64Array, frames: number, gain: number, gainStep: number, at: number, bias: number): void {
    const rest = bias / Math.sqrt(1 + bias * bias)
    let { last } = this
    // the state is kept less the bias, so that zero is rest
    let x = this.x + bias
    let root = Math.sqrt(1 + x * x)
    const g0 = gain + at * gainStep
    for (let i = 0; i < frames; i++) {
      const x1 = (g0 + i * gainStep) * data[i] + bias
      const root1 = Math.sqrt(1 + x1 * x1)
      const clipped = (x1 + x) / (root1 + root) - rest
      x = x1
      root = root1
      data[i] = (1 + DROOP) * clipped - DROOP * last
      last = clipped
    }
    this.x = x - bias
    this.last = last
  }

  reset(): void {
    this.x = 0
    this.last = 0
  }
}
