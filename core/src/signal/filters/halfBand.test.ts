import { describe, expect, it } from 'vitest'
import { FIRST_HALF_BAND, FOURTH_HALF_BAND, halfBandCoefficients, SECOND_HALF_BAND, THIRD_HALF_BAND } from './halfBand'

type Complex = readonly [re: number, im: number]
const times = ([a, b]: Complex, [c, d]: Complex): Complex => [a * c - b * d, a * d + b * c]
const over = (a: Complex, [c, d]: Complex): Complex => {
  const [re, im] = times(a, [c, -d])
  return [re / (c * c + d * d), im / (c * c + d * d)]
}

/**
 * Gain of ½(A₀(z²) + z⁻¹A₁(z²)), the even coefficients in one path and the odd ones in the other, each (a + z⁻²)/(1 + a z⁻²).
 * Source: Regalia, Mitra & Vaidyanathan, Proc. IEEE 76(1), 1988.
 * @param f of the higher sample rate, 0–0.5
 */
function gain(coefficients: ArrayLike<number>, f: number): number {
  const z2: Complex = [Math.cos(4 * Math.PI * f), -Math.sin(4 * Math.PI * f)]
  const path = (first: number) => {
    let all: Complex = [1, 0]
    for (let k = first; k < coefficients.length; k += 2) {
      const a = coefficients[k]
      all = times(all, over([a + z2[0], z2[1]], [1 + a * z2[0], a * z2[1]]))
    }
    return all
  }
  const one = path(0)
  const two = times(path(1), [Math.cos(2 * Math.PI * f), -Math.sin(2 * Math.PI * f)])
  return 0.5 * Math.hypot(one[0] + two[0], one[1] + two[1])
}
const db = (x: number) => 20 * Math.log10(x + 1e-12)
const filters: readonly (readonly [string, Float64Array, number])[] = [
  ['first', FIRST_HALF_BAND, 0.08],
  ['second', SECOND_HALF_BAND, 0.29],
  ['third', THIRD_HALF_BAND, 0.38],
  ['fourth', FOURTH_HALF_BAND, 0.43],
]

describe('half bands of two allpass paths', () => {
  it.each(filters)('%s: passes direct current, stops Nyquist, and is 3 dB down in the middle', (_, coefficients) => {
    expect(gain(coefficients, 0)).toBeCloseTo(1, 12)
    expect(gain(coefficients, 0.5)).toBeLessThan(1e-12)
    expect(gain(coefficients, 0.25)).toBeCloseTo(Math.SQRT1_2, 9)
  })

  it.each(filters)('%s: its two halves complement each other in power', (_, coefficients) => {
    for (let i = 1; i < 50; i++) {
      const f = i / 100
      expect(gain(coefficients, f) ** 2 + gain(coefficients, 0.5 - f) ** 2).toBeCloseTo(1, 9)
    }
  })

  // the transition is split evenly about a quarter of the rate
  it.each(filters)('%s: is flat before its transition and at least 90 dB down behind it', (_, coefficients, transition) => {
    const [pass, stop] = [0.25 - transition / 2, 0.25 + transition / 2]
    for (let i = 0; i <= 200; i++) {
      expect(Math.abs(db(gain(coefficients, (i / 200) * pass)))).toBeLessThan(1e-6)
      expect(db(gain(coefficients, stop + (i / 200) * (0.5 - stop)))).toBeLessThan(-90)
    }
  })

  it('stop more with more coefficients, and less with a narrower transition', () => {
    const worst = (count: number, transition: number) => {
      const c = halfBandCoefficients(count, transition)
      const from = 0.25 + transition / 2
      return Math.max(...Array.from({ length: 400 }, (_, i) => db(gain(c, from + (i / 399) * (0.5 - from)))))
    }
    expect(worst(4, 0.2)).toBeLessThan(worst(2, 0.2) - 20)
    expect(worst(6, 0.2)).toBeLessThan(worst(4, 0.2) - 20)
    expect(worst(4, 0.1)).toBeGreaterThan(worst(4, 0.3) + 20)
    for (const c of halfBandCoefficients(8, 0.05)) expect(c > 0 && c < 1).toBe(true)
  })
})
