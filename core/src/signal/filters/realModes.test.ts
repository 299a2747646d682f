import { describe, expect, it } from 'vitest'
import { createModes, realModes, type RealModes } from './realModes'
import { analogDb, bassTaper, publishedParts, stackTransfer, type AnalogCoefficients, type ToneStack } from './toneStack'

const rate = 384_000

/** |H| in dB at `hz`, by the definition of the modes. */
function modesDb({ direct, poles, gains }: RealModes, hz: number): number {
  const w = (2 * Math.PI * hz) / rate
  let [re, im] = [direct, 0]
  poles.forEach((pole, k) => {
    // pole · z⁻¹ / (1 − (1 − pole) z⁻¹) = pole / (z − (1 − pole))
    const [x, y] = [Math.cos(w) - (1 - pole), Math.sin(w)]
    const m = x * x + y * y
    re += (gains[k] * pole * x) / m
    im -= (gains[k] * pole * y) / m
  })
  return 20 * Math.log10(Math.hypot(re, im))
}

/** What the bilinear transform makes of a frequency (Smith, Introduction to Digital Filters, 2007: ωa = 2·fs·tan(ω / 2·fs)). */
const warped = (hz: number): number => (rate / Math.PI) * Math.tan((Math.PI * hz) / rate)

const stacks: readonly ToneStack[] = [
  { kind: 'three-knob', parts: publishedParts },
  { kind: 'two-knob', parts: publishedParts, mid: 1 },
  { kind: 'one-knob', source: 100e3, pot: 500e3, capacitor: 4.7e-9 },
  { kind: 'shelves', bassHz: 110, trebleHz: 2_400, range: 14 },
]

describe('real modes', () => {
  it.each(stacks.map((s) => s.kind))('answer as the circuit does, %s', (kind) => {
    const stack = stacks.find((s) => s.kind === kind)
    if (!stack) throw new Error(kind)
    const modes = createModes()
    for (const bass of [0, 0.3, 1, 5, 10])
      for (const mid of [0, 0.5, 1])
        for (const treble of [0, 0.1, 0.5, 1]) {
          const circuit = stackTransfer(stack, { bass: bassTaper(bass), mid, treble })
          realModes(circuit, rate, modes)
          for (const hz of [20, 82, 440, 2_000, 8_000, 20_000])
            expect(Math.abs(modesDb(modes, hz) - analogDb(circuit, warped(hz)))).toBeLessThan(1e-4)
          // gains that grow would make rounding heard
          for (const gain of [modes.direct, ...modes.gains]) expect(Math.abs(gain)).toBeLessThan(8)
        }
  })

  it('are as many as the circuit has poles, by rising corner', () => {
    const modes = createModes()
    // (s + 1,000)(s + 30)(s + 20,000) written out
    const [p, q, r] = [1_000, 30, 20_000]
    const three: AnalogCoefficients = { b: [p * q * r, 0, 0, 0], a: [p * q * r, p * q + q * r + p * r, p + q + r, 1] }
    realModes(three, rate, modes)
    // a pole at −p becomes (c − p) / (c + p) with c twice the rate
    for (const [k, hz] of [q, p, r].entries()) expect(modes.poles[k]).toBeCloseTo((2 * hz) / (2 * rate + hz), 12)
    realModes({ b: [1, 0, 0, 0], a: [1, 1 / p, 0, 0] }, rate, modes)
    expect([...modes.poles.subarray(1)]).toEqual([0, 0])
    // what rounding leaves of a pole that a pot has taken away is none
    realModes({ b: [1, 0, 0, 0], a: [1, 1 / p + 1 / r, 1 / (p * r), -1e-25] }, rate, modes)
    expect(modes.poles[1]).toBeCloseTo((2 * r) / (2 * rate + r), 12)
    expect(modes.poles[2]).toBe(0)
  })
})
