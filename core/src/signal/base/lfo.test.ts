import { describe, expect, it } from 'vitest'
import { CHUNK } from './block'
import { Lfo, type LfoShape } from './lfo'

/** One turn of an LFO at 400 points of its phase. */
function turn(shape: LfoShape): number[] {
  const lfo = new Lfo()
  lfo.prepare(CHUNK * 400)
  lfo.set(1, shape)
  return Array.from({ length: 400 }, () => {
    lfo.tick()
    return lfo.value
  }).slice(1)
}
const at = (values: readonly number[], phase: number) => values[Math.round(phase * 400) - 1] ?? values[values.length - 1]

describe('an LFO', () => {
  it('is a sine, a triangle and a square at their quarters', () => {
    const sine = turn('sine')
    expect([at(sine, 0.25), at(sine, 0.5), at(sine, 0.75)].map((v) => Math.round(v * 100) / 100 + 0)).toEqual([1, 0, -1])
    expect(at(sine, 1 / 12)).toBeCloseTo(0.5, 2)
    const triangle = turn('triangle')
    for (const [phase, value] of [
      [0.125, 0.5],
      [0.25, 1],
      [0.375, 0.5],
      [0.75, -1],
    ])
      expect(at(triangle, phase)).toBeCloseTo(value, 9)
    const square = turn('square')
    expect([0.2, 0.49, 0.51, 0.9].map((p) => at(square, p))).toEqual([1, 1, -1, -1])
  })

  // a lamp is lit faster than it cools, and both bend: it starts fast and comes to rest slowly (common practice, no source)
  it('throbs as a lamp: up in a quarter, most of the way down at once, then slower and slower', () => {
    const throb = turn('throb')
    expect(throb.indexOf(Math.max(...throb)) / 400).toBeCloseTo(0.25, 2)
    const [down, later] = [at(throb, 0.25) - at(throb, 0.625), at(throb, 0.625) - at(throb, 0.99)]
    expect(down / later).toBeGreaterThan(2.5)
    expect(at(throb, 0.125)).toBeGreaterThan(0.4)
    expect(throb.reduce((a, b) => a + b) / throb.length).toBeLessThan(-0.1)
  })

  it('goes through its own values in between, without a step', () => {
    const lfo = new Lfo()
    lfo.prepare(48_000)
    lfo.set(3, 'sine')
    lfo.tick()
    for (let i = 0; i < 200; i++) {
      const end = lfo.value + lfo.step * CHUNK
      lfo.tick()
      expect(lfo.value).toBeCloseTo(end, 12)
    }
  })
})
