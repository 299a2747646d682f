/** Complex frequency response on a grid of `bins` frequencies k · binHz, k from 0. */
export class Transfer {
  readonly re: Float64Array
  readonly im: Float64Array

  constructor(
    readonly bins: number,
    readonly binHz: number,
  ) {
    this.re = new Float64Array(bins).fill(1)
    this.im = new Float64Array(bins)
  }

  /** Multiplies by (b2·s² + b1·s + b0) / (a2·s² + a1·s + a0) with s = j·f/hz. */
  times(hz: number, b: readonly [number, number, number], a: readonly [number, number, number]): this {
    const { re, im } = this
    for (let k = 0; k < this.bins; k++) {
      const x = (k * this.binHz) / hz
      const nr = b[0] - b[2] * x * x
      const ni = b[1] * x
      const dr = a[0] - a[2] * x * x
      const di = a[1] * x
      const size = dr * dr + di * di
      const hr = (nr * dr + ni * di) / size
      const hi = (ni * dr - nr * di) / size
      const r = re[k] * hr - im[k] * hi
      im[k] = re[k] * hi + im[k] * hr
      re[k] = r
    }
    return this
  }

  lowPass1 = (hz: number): this => this.times(hz, [1, 0, 0], [1, 1, 0])
  highPass1 = (hz: number): this => this.times(hz, [0, 1, 0], [1, 1, 0])
  lowPass2 = (hz: number, q: number): this => this.times(hz, [1, 0, 0], [1, 1 / q, 1])
  highPass2 = (hz: number, q: number): this => this.times(hz, [0, 0, 1], [1, 1 / q, 1])
  /** A bell of `db` at `hz`. */
  bell(hz: number, db: number, q: number): this {
    const a = Math.pow(10, db / 40)
    return this.times(hz, [1, a / q, 1], [1, 1 / (a * q), 1])
  }

  /** A gaussian high cut without phase shift, −3 dB at `hz`: what a wave loses that is late enough to hide the spread before it. */
  fade(hz: number): this {
    for (let k = 0; k < this.bins; k++) {
      const gain = Math.exp(-0.3466 * ((k * this.binHz) / hz) ** 2)
      this.re[k] *= gain
      this.im[k] *= gain
    }
    return this
  }

  /** Later by `seconds`. */
  delay(seconds: number): this {
    const { re, im } = this
    for (let k = 0; k < this.bins; k++) {
      const phase = -2 * Math.PI * k * this.binHz * seconds
      const c = Math.cos(phase)
      const s = Math.sin(phase)
      const r = re[k] * c - im[k] * s
      im[k] = re[k] * s + im[k] * c
      re[k] = r
    }
    return this
  }
}

export type CutSlope = 'off' | '6' | '12' | '24'

/** Butterworth sections of 2nd order that make up a slope: their Q. */
const SECTIONS = { '12': [Math.SQRT1_2], '24': [0.541196100146197, 1.306562964876377] } as const

/**
 * A cut in its analog form, −3.01 dB at `hz` for every slope; first order: −3.0, −7.0, −12.3 dB at 1, 2 and 4 times the corner.
 * Source: Butterworth, Wireless Engineer 1930.
 */
export function applyCut(transfer: Transfer, kind: 'low' | 'high', hz: number, slope: CutSlope): void {
  if (slope === 'off') return
  if (slope === '6') {
    if (kind === 'low') transfer.highPass1(hz)
    else transfer.lowPass1(hz)
    return
  }
  for (const q of SECTIONS[slope]) {
    if (kind === 'low') transfer.highPass2(hz, q)
    else transfer.lowPass2(hz, q)
  }
}

/** dB that a cut takes off at a frequency (0 or below). */
export function cutLossDb(kind: 'low' | 'high', corner: number, slope: CutSlope, hz: number): number {
  if (slope === 'off') return 0
  const ratio = kind === 'low' ? corner / hz : hz / corner
  const order = Number(slope) / 6
  return -10 * Math.log10(1 + Math.pow(ratio, 2 * order))
}
