import { describe, expect, it } from 'vitest'
import { Fft } from '@fulgor/core/signal'
import { cabinetResponses, minimumPhase, synthesiseResponse } from '.'

/** Level in dB at a frequency by the sum of the definition. */
function levelAt(taps: ArrayLike<number>, hz: number, rate: number): number {
  let re = 0
  let im = 0
  for (let n = 0; n < taps.length; n++) {
    const w = (2 * Math.PI * hz * n) / rate
    re += taps[n] * Math.cos(w)
    im -= taps[n] * Math.sin(w)
  }
  return 20 * Math.log10(Math.hypot(re, im))
}

describe('shipped responses', () => {
  it.each(cabinetResponses.map((r) => r.id))('%s: begins at once, dies away, holds finite numbers', (id) => {
    const taps = synthesiseResponse(id, 48_000)
    expect(Array.from(taps).every(Number.isFinite)).toBe(true)
    const energy = (from: number, to: number) =>
      Array.from(taps)
        .slice(from, to)
        .reduce((s, y) => s + y * y, 0)
    const whole = energy(0, taps.length)
    expect(energy(0, 480) / whole).toBeGreaterThan(0.8)
    expect(energy(taps.length - 64, taps.length) / whole).toBeLessThan(1e-4)
  })

  it.each(cabinetResponses.map((r) => r.id))('%s: a guitar loudspeaker, nothing much below 50 Hz or above 10 kHz', (id) => {
    const taps = synthesiseResponse(id, 48_000)
    const at = (hz: number) => levelAt(taps, hz, 48_000)
    const middle = Math.max(at(500), at(1_000), at(2_000))
    expect(middle - at(30)).toBeGreaterThan(10)
    expect(middle - at(14_000)).toBeGreaterThan(20)
  })

  it.each([44_100, 88_200, 96_000])('sound alike at %s Hz', (rate) => {
    for (const { id } of cabinetResponses) {
      const here = synthesiseResponse(id, 48_000)
      const there = synthesiseResponse(id, rate)
      const offset = levelAt(there, 1_000, rate) - levelAt(here, 1_000, 48_000)
      for (const hz of [100, 300, 2_500, 5_000])
        expect(Math.abs(levelAt(there, hz, rate) - levelAt(here, hz, 48_000) - offset)).toBeLessThan(1.5)
      expect(Math.abs(offset)).toBeLessThan(1.5)
    }
  })

  it('are told apart, and an unknown one is refused', () => {
    const shapes = cabinetResponses.map(({ id }) =>
      [100, 400, 1_500, 3_000, 6_000].map((hz) => levelAt(synthesiseResponse(id, 48_000), hz, 48_000)),
    )
    shapes.forEach((a, i) =>
      shapes.slice(i + 1).forEach((b) => expect(Math.max(...a.map((x, k) => Math.abs(x - b[k])))).toBeGreaterThan(2)),
    )
    expect(() => synthesiseResponse('nothing', 48_000)).toThrow()
  })
})

describe('minimum phase', () => {
  // Oppenheim & Schafer: of all sequences with a magnitude, the minimum-phase one gathers its energy earliest
  it('keeps the magnitude and brings the energy to the front', () => {
    const size = 1_024
    // a filter with a zero outside the circle: maximum phase
    const maximum = new Float64Array(size)
    maximum.set([0.5, 1])
    const re = maximum.slice()
    const im = new Float64Array(size)
    new Fft(size).forward(re, im)
    const magnitude = re.map((r, k) => Math.hypot(r, im[k])).slice(0, size / 2 + 1)
    const taps = minimumPhase(magnitude, size)
    expect(taps[0]).toBeCloseTo(1, 6)
    expect(taps[1]).toBeCloseTo(0.5, 6)
    expect(Math.max(...Array.from(taps).slice(2).map(Math.abs))).toBeLessThan(1e-6)
  })

  it('of a flat magnitude is an impulse', () => {
    const taps = minimumPhase(new Float64Array(129).fill(0.25), 256)
    expect(taps[0]).toBeCloseTo(0.25, 12)
    expect(Math.max(...Array.from(taps).slice(1).map(Math.abs))).toBeLessThan(1e-12)
  })
})
