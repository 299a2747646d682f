import type { AnalogCoefficients } from './toneStack'

/**
 * A filter as low-passes of first order side by side: direct · x + Σ gainᵢ · lowᵢ one sample before, low: y ← (1 − pole) · y + pole · x. Taken a
 * sample before, no gain grows where a pole lies near a third of the rate.
 */
export interface RealModes {
  direct: number
  /** Up to three, by rising corner; 0 where there are fewer. */
  readonly poles: Float64Array
  readonly gains: Float64Array
}

export const createModes = (): RealModes => ({ direct: 0, poles: new Float64Array(3), gains: new Float64Array(3) })

const roots = new Float64Array(3)

/**
 * A circuit of resistors and capacitors, whose poles are real, negative and single, as modes of its bilinear transform. Direct forms of
 * third order lose a corner of some ten hertz at a megahertz in single precision; a mode keeps its own.
 * Source: partial fractions, as in Smith, Introduction to Digital Filters, 2007 (from memory).
 * @param analog of first to third order
 * @param out is written; nothing is allocated
 */
export function realModes({ a, b }: AnalogCoefficients, sampleRate: number, out: RealModes): void {
  const order = counts(a[3], a[2]) ? 3 : counts(a[2], a[1]) ? 2 : 1
  realRoots(a, order)
  const c = 2 * sampleRate
  out.direct = b[order] / a[order]
  for (let k = 0; k < 3; k++) {
    if (k >= order) {
      out.poles[k] = out.gains[k] = 0
      continue
    }
    const p = roots[k]
    const residue = (b[0] + p * (b[1] + p * (b[2] + p * b[3]))) / (a[1] + p * (2 * a[2] + p * 3 * a[3]))
    // R / (s − p) with s = c (1 − z⁻¹) / (1 + z⁻¹) is R / (c − p) · (1 + (1 + at) z⁻¹ / (1 − at · z⁻¹))
    const at = (c + p) / (c - p)
    out.poles[k] = (-2 * p) / (c - p)
    out.gains[k] = (-residue / p) * 0.5 * (1 + at)
    out.direct += residue / (c - p)
  }
}

/** A pole beyond 10 Grad/s is rounding: pots at their ends take one away. */
const counts = (higher: number, lower: number): boolean => Math.abs(higher) * 1e10 > Math.abs(lower)

/** Real roots of a₀ + a₁s + a₂s² + a₃s³ into {@link roots}, the smallest first: closed, then polished by Newton's step. */
function realRoots(a: readonly number[], order: number): void {
  if (order === 1) roots[0] = -a[0] / a[1]
  else if (order === 2) {
    const q = -0.5 * (a[1] + Math.sign(a[1]) * Math.sqrt(Math.max(0, a[1] * a[1] - 4 * a[2] * a[0])))
    roots[0] = a[0] / q
    roots[1] = q / a[2]
  } else {
    // of t = 1/s, whose largest root is the lowest corner
    const [x, y, z] = [a[1] / a[0], a[2] / a[0], a[3] / a[0]]
    const third = x / 3
    const p = Math.max(0, third * third - y / 3)
    const q = third * third * third - (third * y) / 2 + z / 2
    const root = Math.sqrt(p)
    const angle = Math.acos(Math.max(-1, Math.min(1, q / (p * root || 1)))) / 3
    for (let k = 0; k < 3; k++) roots[k] = 1 / (-2 * root * Math.cos(angle + ((k === 0 ? 0 : k === 1 ? -1 : 1) * 2 * Math.PI) / 3) - third)
  }
  for (let k = 0; k < order; k++)
    for (let turn = 0; turn < 3; turn++) {
      const s = roots[k]
      const slope = a[1] + s * (2 * a[2] + s * 3 * a[3])
      if (slope !== 0) roots[k] = s - (a[0] + s * (a[1] + s * (a[2] + s * a[3]))) / slope
    }
  // by insertion: no array is made
  for (let i = 1; i < order; i++)
    for (let j = i; j > 0 && Math.abs(roots[j]) < Math.abs(roots[j - 1]); j--) {
      const held = roots[j]
      roots[j] = roots[j - 1]
      roots[j - 1] = held
    }
}
