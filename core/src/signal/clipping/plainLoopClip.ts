import { FIRST_HALF_BAND, SECOND_HALF_BAND } from '../filters/halfBand'

/** Two allpass paths of a half-band filter, one sample of the lower rate at a time. */
class HalfBandPair {
  private readonly x: Float64Array
  private readonly y: Float64Array

  constructor(private readonly coefficients: Float64Array) {
    this.x = new Float64Array(coefficients.length)
    this.y = new Float64Array(coefficients.length)
  }

  /** Every second coefficient from `first` on makes one path. */
  path(value: number, first: 0 | 1): number {
    const { coefficients, x, y } = this
    let a = value
    for (let c = first; c < coefficients.length; c += 2) {
      const b = (a - y[c]) * coefficients[c] + x[c]
      x[c] = Math.abs(a) < 1e-20 ? 0 : a
      y[c] = Math.abs(b) < 1e-20 ? 0 : b
      a = b
    }
    return a
  }

  reset(): void {
    this.x.fill(0)
    this.y.fill(0)
  }
}

/**
 * Plain form of the saturation in core/kernel/effects/echo.ts: the soft clip x/√(1+x²) at four times the rate in antiderivative form, sample by
 * sample.
 * Sources: Parker, Zavalishin, Le Bivic, DAFx-16; Valenzuela & Constantinides 1983.
 */
export class LoopClip {
  /** Frames that it delays: both half-bands up and down, and the antiderivative form. */
  static readonly latency = 5
  private readonly up = new HalfBandPair(FIRST_HALF_BAND)
  private readonly down = new HalfBandPair(FIRST_HALF_BAND)
  private readonly up2 = new HalfBandPair(SECOND_HALF_BAND)
  private readonly down2 = new HalfBandPair(SECOND_HALF_BAND)
  private last = 0
  private root = 1

  private clip(x: number): number {
    const root = Math.sqrt(1 + x * x)
    const y = (x + this.last) / (root + this.root)
    this.last = x
    this.root = root
    return y
  }

  private twice(x: number): number {
    const a = this.clip(this.up2.path(x, 0))
    const b = this.clip(this.up2.path(x, 1))
    return 0.5 * (this.down2.path(b, 0) + this.down2.path(a, 1))
  }

  /** `x` at `drive`, as loud as it came in below the clip. */
  process(x: number, drive: number): number {
    const y = x * drive
    const a = this.twice(this.up.path(y, 0))
    const b = this.twice(this.up.path(y, 1))
    return (0.5 * (this.down.path(b, 0) + this.down.path(a, 1))) / drive
  }

  reset(): void {
    for (const pair of [this.up, this.down, this.up2, this.down2]) pair.reset()
    this.last = 0
    this.root = 1
  }
}
