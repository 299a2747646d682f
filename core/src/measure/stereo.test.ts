import { describe, expect, it } from 'vitest'
import { loudness, monoLoss, monoSum, stereoFigures } from '.'

const rate = 48_000
const sine = (hz: number, gain = 0.25) => Float32Array.from({ length: 2 * rate }, (_, n) => gain * Math.sin((2 * Math.PI * hz * n) / rate))
const left = sine(1_000)
const silence = new Float32Array(left.length)
const lossOf = (right: Float32Array) => monoLoss(loudness([left, right], rate).integratedLufs, monoSum([left, right]), rate)

// powers of sums: two equal sides stay, one side alone and two unlike ones lose half of their power (10 lg 2), opposite ones all
describe('what a mono house leaves', () => {
  it.each([
    ['two equal sides', left, 0],
    ['one side alone', silence, 3.01],
    ['sides that have nothing in common', sine(1_700), 3.01],
  ])('of %s', (_, right, lu) => {
    // the weighting lifts 1.7 kHz by a few tenths
    expect(Math.abs((lossOf(right) ?? NaN) - lu)).toBeLessThan(0.03)
    expect(stereoFigures([left, right], rate).monoLossLu).toBeCloseTo(lossOf(right) ?? NaN, 6)
  })

  it('nothing of opposite sides, and nothing to tell of silence', () => {
    expect(lossOf(left.map((x) => -x))).toBe(Infinity)
    expect(monoLoss(loudness([silence, silence], rate).integratedLufs, monoSum([silence, silence]), rate)).toBeNull()
  })

  it('is the mean of both sides, sample by sample', () => {
    expect([...monoSum([Float32Array.of(1, 0.5, -1), Float32Array.of(0, 0.5, 1)])]).toEqual([0.5, 0.5, 0])
  })
})
