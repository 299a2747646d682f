import { describe, expect, it } from 'vitest'
import { THIRD_OCTAVES } from '@fulgor/core/measure'
import { bentDb, crestOf, densityOf, meanSpread, portraitOf } from '.'

const RATE = 48_000
const SECONDS = 6
function noise(seed: number): Float32Array {
  let state = seed
  const next = () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
    return (state + 0.5) / 2 ** 32
  }
  return Float32Array.from({ length: RATE * SECONDS }, () => 0.1 * Math.sqrt(-2 * Math.log(next())) * Math.cos(2 * Math.PI * next()))
}
const tone = (hz: number) => Float32Array.from({ length: RATE * SECONDS }, (_, n) => 0.3 * Math.sin((2 * Math.PI * hz * n) / RATE))

describe('what two sounds are compared by', () => {
  it('density of Gaussian noise is Euler’s constant: the mean logarithm of its exponentially distributed power', () => {
    // E ln(p / mean p) = −γ = −0.5772, 10 log10 e of it; γ: Abramowitz & Stegun, NBS 1964, 6.1.3
    expect(Math.abs(densityOf(noise(3), RATE) + 0.5772 * 10 * Math.LOG10E)).toBeLessThan(0.15)
  })

  it('density of a few partials lies far below, and clipping fills it', () => {
    const chord = Float32Array.from({ length: RATE * SECONDS }, (_, n) =>
      [164.8, 246.9, 329.6, 415.3].reduce((sum, hz) => sum + 0.1 * Math.sin((2 * Math.PI * hz * n) / RATE), 0),
    )
    const clipped = chord.map((v) => Math.tanh(20 * v))
    expect(densityOf(chord, RATE)).toBeLessThan(-15)
    expect(densityOf(clipped, RATE)).toBeGreaterThan(densityOf(chord, RATE) + 3)
  })

  it('crest of a sine is 3.01 dB, of a square none', () => {
    expect(crestOf(tone(440))).toBeCloseTo(3.01, 2)
    expect(crestOf(tone(440).map(Math.sign))).toBeCloseTo(0, 1)
  })

  it('width is nothing in mono, half for two who share nothing, whole for opposite sides', () => {
    const [a, b] = [noise(3), noise(77)]
    expect(portraitOf([a, a], RATE, 'mid')?.widthPercent).toBeCloseTo(0, 6)
    expect(Math.abs((portraitOf([a, b], RATE, 'mid')?.widthPercent ?? 0) - 50)).toBeLessThan(1)
    expect(portraitOf([a, a.map((v) => -v)], RATE, 'left')?.widthPercent).toBeCloseTo(100, 6)
    expect(portraitOf([a, a], RATE, 'side')).toBeNull()
  })

  it('body, bite and fizz of white noise are the shares of their bands', () => {
    const found = portraitOf([noise(9)], RATE, 'mid')
    // third octaves reach a sixth of a decade's third beyond their middle (IEC 61260-1)
    const edge = Math.pow(10, 0.05)
    const whole = THIRD_OCTAVES[THIRD_OCTAVES.length - 1] * edge - THIRD_OCTAVES[0] / edge
    const share = (from: number, to: number) => 10 * Math.log10((to * edge - from / edge) / whole)
    expect(Math.abs((found?.bodyDb ?? 0) - share(80, 250))).toBeLessThan(0.4)
    expect(Math.abs((found?.biteDb ?? 0) - share(1_600, 3_150))).toBeLessThan(0.4)
    expect(Math.abs((found?.fizzDb ?? 0) - share(5_000, 12_500))).toBeLessThan(0.4)
  })

  it('a mean moves by its spread over the root of their number', () => {
    const bands = (spread: number, count: number) => ({ db: [0], spread: [spread], count })
    expect(meanSpread(bands(6, 36), bands(0, 1), 0)).toBeCloseTo(1, 9)
    expect(meanSpread(bands(6, 4), bands(8, 4), 0)).toBeCloseTo(5, 9)
  })
})

describe('taste', () => {
  it('bends a curve above 1 kHz and below 200 Hz, and nothing between', () => {
    expect(bentDb(['darker'], 4_000)).toBe(-3)
    expect(bentDb(['brighter'], 2_000)).toBe(1.5)
    expect(bentDb(['tighter'], 100)).toBe(-2)
    expect(bentDb(['fuller', 'darker'], 100)).toBe(2)
    expect(bentDb(['darker', 'tighter', 'drier'], 500)).toBe(0)
  })
})
