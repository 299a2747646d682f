import { rootsOf, type Complex } from '../base/roots'
import { sectionResponse, type Section } from '../filters/biquad'
import { plus, polesOf, times, transferAt, type Transfer } from './circuit'

/** Frequencies at which the filter is held to the analog one. */
const POINTS = 48
const FROM_HZ = 20
/** Of the sample rate. */
const TO = 0.4
/** Pairs of poles that are kept; those far above the band do nothing in it. */
const MOST = 3

/**
 * A digital filter with the poles of an analog one, each where it is (z = e^sT), and its zeros fitted to the analog response by least
 * squares: within 0.25 dB up to 10 kHz where a bilinear transform would bend the axis. Minimum phase in, stable out.
 */
export function fitted(transfer: Transfer, sampleRate: number): Section[] {
  const shapes = pairs(polesOf(transfer).filter(([re, im]) => Math.hypot(re, im) < 2 * Math.PI * sampleRate * 1.5))
    .slice(0, MOST)
    .map(([p, q]) => recursion(p, q, sampleRate))
  const columns = Array.from({ length: 1 + 2 * shapes.length }, () => new Float64Array(2 * POINTS))
  const wanted = new Float64Array(2 * POINTS)
  const top = TO * sampleRate
  for (let k = 0; k < 2 * POINTS; k += 2) {
    const hz = FROM_HZ * Math.pow(top / FROM_HZ, k / (2 * POINTS - 2))
    const w = (2 * Math.PI * hz) / sampleRate
    const [hr, hi] = transferAt(transfer, hz)
    const weight = 1 / (Math.hypot(hr, hi) + 1e-9)
    const [c, s] = [Math.cos(w), Math.sin(w)]
    const [c2, s2] = [2 * c * c - 1, 2 * s * c]
    wanted[k] = hr * weight
    wanted[k + 1] = hi * weight
    columns[0][k] = weight
    shapes.forEach(({ a1, a2 }, n) => {
      const re = 1 + a1 * c + a2 * c2
      const im = -a1 * s - a2 * s2
      const m = weight / (re * re + im * im)
      columns[1 + 2 * n][k] = re * m
      columns[1 + 2 * n][k + 1] = -im * m
      columns[2 + 2 * n][k] = (re * c - im * s) * m
      columns[2 + 2 * n][k + 1] = (-im * c - re * s) * m
    })
  }
  const x = leastSquares(columns, wanted)
  return inARow(
    x[0],
    shapes.map((s, k) => ({ ...s, b0: x[1 + 2 * k], b1: x[2 + 2 * k] })),
  )
}

interface Recursion {
  readonly a1: number
  readonly a2: number
}

/**
 * What stands side by side, one behind the other: d + Σ (b0 + b1 z⁻¹) / (1 + a1 z⁻¹ + a2 z⁻²). A zero outside the unit circle is
 * mirrored into it, which leaves the level as it is and makes the row one that can be undone.
 */
function inARow(direct: number, parts: readonly (Recursion & { readonly b0: number; readonly b1: number })[]): Section[] {
  const poles = parts.map(({ a1, a2 }) => [1, a1, a2])
  // in z⁻¹, ascending
  const numerator = parts.reduce(
    (sum, { b0, b1 }, k) =>
      plus(
        sum,
        poles.reduce((p, other, j) => (j === k ? p : times(p, other)), [b0, b1]),
      ),
    poles.reduce((p, other) => times(p, other), [direct]),
  )
  // in z the coefficients stand the other way round
  const zeros = rootsOf(numerator.slice().reverse())
  const gain = zeros.reduce((product, [re, im]) => product * Math.max(1, Math.hypot(re, im)), numerator[0])
  const inside = paired(
    zeros.map(([re, im]): Complex => {
      const m = Math.max(1, re * re + im * im)
      return [re / m, im / m]
    }),
  )
  return parts.map(({ a1, a2 }, k) => {
    const zero = inside.at(k) ?? { a1: 0, a2: 0 }
    const g = k === 0 ? gain : 1
    return { b0: g, b1: g * zero.a1, b2: g * zero.a2, a1, a2 }
  })
}

/** What undoes a fitted filter. */
export const inverseOf = (sections: readonly Section[]): Section[] =>
  sections.map(({ b0, b1, b2, a1, a2 }) => ({ b0: 1 / b0, b1: a1 / b0, b2: a2 / b0, a1: b1 / b0, a2: b2 / b0 }))

function paired(zeros: readonly Complex[]): Recursion[] {
  return pairs(zeros).map(([p, q]) =>
    q === null
      ? { a1: -p[0], a2: 0 }
      : p[1] !== 0
        ? { a1: -2 * p[0], a2: p[0] * p[0] + p[1] * p[1] }
        : { a1: -(p[0] + q[0]), a2: p[0] * q[0] },
  )
}

/** Gain of the digital filter, dB. */
export const sectionsDb = (sections: readonly Section[], hz: number, sampleRate: number): number =>
  sections.reduce((db, section) => db + 20 * Math.log10(Math.hypot(...sectionResponse(section, hz, sampleRate))), 0)

/** Two and two: a complex one with its conjugate, real ones by their size; a last real one stands alone. Low ones first. */
function pairs(poles: readonly Complex[]): (readonly [Complex, Complex | null])[] {
  // a root that is nought is found with a little of both
  const isReal = ([re, im]: Complex) => Math.abs(im) <= 1e-5 * Math.abs(re) + 1e-9
  const real = poles
    .filter(isReal)
    .map(([re]) => [re, 0] as const)
    .sort((a, b) => b[0] - a[0])
  const found: (readonly [Complex, Complex | null])[] = poles.filter((p) => !isReal(p) && p[1] > 0).map((p) => [p, [p[0], -p[1]]] as const)
  for (let k = 0; k < real.length; k += 2) found.push([real[k], real.at(k + 1) ?? null])
  const size = ([p]: readonly [Complex, Complex | null]) => Math.hypot(p[0], p[1])
  return found.sort((a, b) => size(a) - size(b))
}

function recursion(p: Complex, q: Complex | null, sampleRate: number): Recursion {
  const radius = Math.exp(p[0] / sampleRate)
  if (q === null) return { a1: -radius, a2: 0 }
  if (p[1] !== 0) return { a1: -2 * radius * Math.cos(p[1] / sampleRate), a2: radius * radius }
  const other = Math.exp(q[0] / sampleRate)
  return { a1: -(radius + other), a2: radius * other }
}

/**
 * Solution of an overdetermined system by modified Gram–Schmidt (Björck, Numerical Methods for Least Squares Problems, 1996, ch. 2). The
 * columns are used up.
 */
function leastSquares(columns: readonly Float64Array[], wanted: Float64Array): Float64Array {
  const n = columns.length
  const r = columns.map(() => new Float64Array(n))
  const x = new Float64Array(n)
  const dot = (a: Float64Array, b: Float64Array) => {
    let sum = 0
    for (let i = 0; i < a.length; i++) sum += a[i] * b[i]
    return sum
  }
  const less = (a: Float64Array, b: Float64Array, share: number) => {
    for (let i = 0; i < a.length; i++) a[i] -= share * b[i]
  }
  const y = columns.map((column, k) => {
    const norm = (r[k][k] = Math.sqrt(dot(column, column)))
    const scale = norm > 1e-12 ? 1 / norm : 0
    for (let i = 0; i < column.length; i++) column[i] *= scale
    for (let j = k + 1; j < n; j++) {
      r[k][j] = dot(column, columns[j])
      less(columns[j], column, r[k][j])
    }
    const share = dot(column, wanted)
    less(wanted, column, share)
    return share
  })
  for (let k = n - 1; k >= 0; k--) {
    // columns that say the same as those before them are left out
    if (r[k][k] <= 1e-9 * r[0][0]) continue
    let sum = y[k]
    for (let j = k + 1; j < n; j++) sum -= r[k][j] * x[j]
    x[k] = sum / r[k][k]
  }
  return x
}
