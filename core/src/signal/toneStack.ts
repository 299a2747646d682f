/** Component values of the three-knob passive tone stack, in ohm and farad. */
export interface ToneStackParts {
  /** Treble pot, bass pot, mid pot, slope resistor. */
  r1: number
  r2: number
  r3: number
  r4: number
  /** Treble, bass and mid capacitors. */
  c1: number
  c2: number
  c3: number
}

/** Pot positions as resistance fractions 0–1. */
export interface ToneStackPots {
  treble: number
  mid: number
  bass: number
}

/** Component values printed by Yeh & Smith, DAFx-06. */
export const publishedParts: ToneStackParts = { r1: 250e3, r2: 1e6, r3: 25e3, r4: 56e3, c1: 250e-12, c2: 20e-9, c3: 20e-9 }

/** Coefficients of H(s) = (b1 s + b2 s² + b3 s³) / (a0 + a1 s + a2 s² + a3 s³). */
export interface AnalogCoefficients {
  b: [number, number, number, number]
  a: [number, number, number, number]
}

/**
 * Transfer function of the circuit with an ideal source and no load.
 * Source: Yeh & Smith, DAFx-06, section 2.
 */
export function toneStackTransfer(parts: ToneStackParts, pots: ToneStackPots): AnalogCoefficients {
  const { r1, r2, r3, r4, c1, c2, c3 } = parts
  const { treble: t, mid: m, bass: l } = pots
  const b1 = t * c1 * r1 + m * c3 * r3 + l * (c1 * r2 + c2 * r2) + (c1 * r3 + c2 * r3)
  const b2 =
    t * (c1 * c2 * r1 * r4 + c1 * c3 * r1 * r4) -
    m * m * (c1 * c3 * r3 * r3 + c2 * c3 * r3 * r3) +
    m * (c1 * c3 * r1 * r3 + c1 * c3 * r3 * r3 + c2 * c3 * r3 * r3) +
    l * (c1 * c2 * r1 * r2 + c1 * c2 * r2 * r4 + c1 * c3 * r2 * r4) +
    l * m * (c1 * c3 * r2 * r3 + c2 * c3 * r2 * r3) +
    (c1 * c2 * r1 * r3 + c1 * c2 * r3 * r4 + c1 * c3 * r3 * r4)
  const b3 =
    l * m * (c1 * c2 * c3 * r1 * r2 * r3 + c1 * c2 * c3 * r2 * r3 * r4) -
    m * m * (c1 * c2 * c3 * r1 * r3 * r3 + c1 * c2 * c3 * r3 * r3 * r4) +
    m * (c1 * c2 * c3 * r1 * r3 * r3 + c1 * c2 * c3 * r3 * r3 * r4) +
    t * c1 * c2 * c3 * r1 * r3 * r4 -
    t * m * c1 * c2 * c3 * r1 * r3 * r4 +
    t * l * c1 * c2 * c3 * r1 * r2 * r4
  const a1 = c1 * r1 + c1 * r3 + c2 * r3 + c2 * r4 + c3 * r4 + m * c3 * r3 + l * (c1 * r2 + c2 * r2)
  const a2 =
    m * (c1 * c3 * r1 * r3 - c2 * c3 * r3 * r4 + c1 * c3 * r3 * r3 + c2 * c3 * r3 * r3) +
    l * m * (c1 * c3 * r2 * r3 + c2 * c3 * r2 * r3) -
    m * m * (c1 * c3 * r3 * r3 + c2 * c3 * r3 * r3) +
    l * (c1 * c2 * r2 * r4 + c1 * c2 * r1 * r2 + c1 * c3 * r2 * r4 + c2 * c3 * r2 * r4) +
    (c1 * c2 * r1 * r4 + c1 * c3 * r1 * r4 + c1 * c2 * r3 * r4 + c1 * c2 * r1 * r3 + c1 * c3 * r3 * r4 + c2 * c3 * r3 * r4)
  const a3 =
    l * m * (c1 * c2 * c3 * r1 * r2 * r3 + c1 * c2 * c3 * r2 * r3 * r4) -
    m * m * (c1 * c2 * c3 * r1 * r3 * r3 + c1 * c2 * c3 * r3 * r3 * r4) +
    m * (c1 * c2 * c3 * r3 * r3 * r4 + c1 * c2 * c3 * r1 * r3 * r3 - c1 * c2 * c3 * r1 * r3 * r4) +
    l * c1 * c2 * c3 * r1 * r2 * r4 +
    c1 * c2 * c3 * r1 * r3 * r4
  return { b: [0, b1, b2, b3], a: [1, a1, a2, a3] }
}

/** |H(j2πf)| in dB of the circuit itself. */
export function analogDb({ b, a }: AnalogCoefficients, hz: number): number {
  const w = 2 * Math.PI * hz
  const magnitude = (p: readonly number[]) => Math.hypot(p[0] - p[2] * w * w, p[1] * w - p[3] * w * w * w)
  return 20 * Math.log10(magnitude(b) / magnitude(a))
}

/** Third-order digital filter from an analog prototype by the bilinear transform; coefficients b then a, a0 = 1. */
export function bilinear3(analog: AnalogCoefficients, sampleRate: number, out: Float64Array): void {
  const c = 2 * sampleRate
  const transform = (p: readonly number[], at: number) => {
    const [p0, p1, p2, p3] = [p[0], p[1] * c, p[2] * c * c, p[3] * c * c * c]
    out[at] = p0 + p1 + p2 + p3
    out[at + 1] = 3 * p0 + p1 - p2 - 3 * p3
    out[at + 2] = 3 * p0 - p1 - p2 + 3 * p3
    out[at + 3] = p0 - p1 + p2 - p3
  }
  transform(analog.b, 0)
  transform(analog.a, 4)
  const a0 = out[4]
  for (let i = 0; i < 8; i++) out[i] /= a0
}

/** Response in dB of a third-order digital filter written by {@link bilinear3}. */
export function digital3Db(coefficients: Float64Array, hz: number, sampleRate: number): number {
  const w = (2 * Math.PI * hz) / sampleRate
  const magnitude = (at: number) => {
    let re = 0
    let im = 0
    for (let k = 0; k < 4; k++) {
      re += coefficients[at + k] * Math.cos(k * w)
      im -= coefficients[at + k] * Math.sin(k * w)
    }
    return Math.hypot(re, im)
  }
  return 20 * Math.log10(magnitude(0) / magnitude(4))
}

/** The running tone stack. Pot moves recompute the circuit; call {@link tune} at the control rate. */
export class ToneStack {
  readonly coefficients = new Float64Array(8)
  private z1 = 0
  private z2 = 0
  private z3 = 0

  constructor(private readonly parts: ToneStackParts) {}

  tune(pots: ToneStackPots, sampleRate: number): void {
    bilinear3(toneStackTransfer(this.parts, pots), sampleRate, this.coefficients)
  }

  process(data: Float64Array, frames: number): void {
    const [b0, b1, b2, b3, , a1, a2, a3] = this.coefficients
    let { z1, z2, z3 } = this
    for (let i = 0; i < frames; i++) {
      const x = data[i]
      const y = b0 * x + z1
      z1 = b1 * x - a1 * y + z2
      z2 = b2 * x - a2 * y + z3
      z3 = b3 * x - a3 * y
      data[i] = y
    }
    this.z1 = z1
    this.z2 = z2
    this.z3 = z3
  }

  reset(): void {
    this.z1 = this.z2 = this.z3 = 0
  }
}
