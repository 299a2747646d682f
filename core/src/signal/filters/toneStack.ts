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

/**
 * Digital filter from an analog prototype of first to third order by the bilinear transform; coefficients b then a, a0 = 1. The
 * order is that of the prototype, so that no pole stands at −1 for what is not there.
 */
export function bilinear(analog: AnalogCoefficients, sampleRate: number, out: Float64Array): void {
  const c = 2 * sampleRate
  const order = analog.a[3] !== 0 || analog.b[3] !== 0 ? 3 : analog.a[2] !== 0 || analog.b[2] !== 0 ? 2 : 1
  out.fill(0)
  const transform = (p: readonly number[], at: number) => {
    for (let k = 0, power = 1; k <= order; k++, power *= c)
      for (let i = 0; i <= order; i++) out[at + i] += p[k] * power * EXPANSIONS[order][k][i]
  }
  transform(analog.b, 0)
  transform(analog.a, 4)
  const a0 = out[4]
  for (let i = 0; i < 8; i++) out[i] /= a0
}

/** Coefficients of (1 − z⁻¹)^k (1 + z⁻¹)^(order − k), by order and k. */
const EXPANSIONS: readonly (readonly (readonly number[])[])[] = [
  [[1]],
  [
    [1, 1],
    [1, -1],
  ],
  [
    [1, 2, 1],
    [1, 0, -1],
    [1, -2, 1],
  ],
  [
    [1, 3, 3, 1],
    [1, 1, -1, -1],
    [1, -1, -1, 1],
    [1, -3, 3, -1],
  ],
]

/** Magnitude of a filter written by {@link bilinear}. */
export function digitalMagnitude(coefficients: Float64Array, hz: number, sampleRate: number): number {
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
  return magnitude(0) / magnitude(4)
}

/**
 * Resistance fraction of the bass pot at 0–10: the circuit answers its first tenth with most of its range, so that the pot is steeper
 * than an audio taper, and each half of the travel does about half of what the whole does.
 */
export const bassTaper = (knob: number): number => (Math.pow(BASS_BASE, knob / 10) - 1) / (BASS_BASE - 1)
const BASS_BASE = 1_500

/** The tone circuits of the amps. */
export type ToneStack =
  /** Bass, mid and treble pots in the published circuit. */
  | { readonly kind: 'three-knob'; readonly parts: ToneStackParts }
  /** The same circuit with a resistor of `mid` · r3 in the mid pot's place. */
  | { readonly kind: 'two-knob'; readonly parts: ToneStackParts; readonly mid: number }
  /** One pot in series with a capacitor to ground behind a source resistance, in ohm and farad. */
  | { readonly kind: 'one-knob'; readonly source: number; readonly pot: number; readonly capacitor: number }
  /** Bass and treble shelves of ±`range` dB around their corners, Hz. */
  | { readonly kind: 'shelves'; readonly bassHz: number; readonly trebleHz: number; readonly range: number }

/** Transfer function of a tone circuit at its pots' positions (0–1; the bass pot comes as {@link bassTaper}). */
export function stackTransfer(stack: ToneStack, pots: ToneStackPots): AnalogCoefficients {
  switch (stack.kind) {
    case 'three-knob':
      return toneStackTransfer(stack.parts, pots)
    case 'two-knob':
      return toneStackTransfer(stack.parts, { ...pots, mid: stack.mid })
    case 'one-knob': {
      const r = stack.pot * pots.treble ** 2
      return { b: [1, r * stack.capacitor, 0, 0], a: [1, (r + stack.source) * stack.capacitor, 0, 0] }
    }
    case 'shelves': {
      const gain = (pot: number) => Math.pow(10, ((2 * pot - 1) * stack.range) / 20)
      const low = 2 * Math.PI * stack.bassHz
      const high = 2 * Math.PI * stack.trebleHz
      const bass = gain(Math.log(1 + (BASS_BASE - 1) * pots.bass) / Math.log(BASS_BASE))
      const treble = gain(pots.treble)
      return { b: [low * bass, 1 + (low * bass * treble) / high, treble / high, 0], a: [low, 1 + low / high, 1 / high, 0] }
    }
  }
}
