import { describe, expect, it } from 'vitest'
import { samplePeak, truePeak } from '.'
import { interpolators } from './interpolation'

/** The definition of ITU-R BS.1770-4 annex 2, every sample of every phase: what the kernel may skip most of. */
function everyPhase(x: Float32Array): number {
  let peak = samplePeak([x])
  for (const taps of interpolators)
    for (let n = 0; n < x.length; n++) {
      let sum = 0
      for (let k = 0; k < taps.length; k++) sum += taps[k] * (x[n - 11 + k] ?? 0)
      peak = Math.max(peak, Math.abs(sum))
    }
  return peak
}

const FRAMES = 70_000
const signal = (of: (n: number) => number) => Float32Array.from({ length: FRAMES }, (_, n) => of(n))
function random(seed: number): () => number {
  let state = seed
  return () => (state = (state * 16_807) % 2_147_483_647) / 1_073_741_823.5 - 1
}

/** Samples that the middle phase adds up with all their magnitudes: nothing rises further between its samples. */
const worst = interpolators[1].map(Math.sign)
const rise = interpolators[1].reduce((sum, h) => sum + Math.abs(h), 0)
/** Such a run from `at` on, of magnitude one, and a smooth hump elsewhere that is almost as high as what lies between its samples. */
const hidden = (at: number) =>
  signal((n) => {
    const k = n - at
    if (k >= 0 && k < worst.length) return worst[k]
    return 0.97 * rise * Math.exp(-(((n - 30_000) / 400) ** 2))
  })
describe('true peak', () => {
  const noise = random(3)
  it.each([
    ['noise', signal(noise)],
    ['a slow sine', signal((n) => 0.7 * Math.sin(0.011 * n))],
    ['a sine just below half the rate', signal((n) => 0.7 * Math.sin(3.1 * n + 0.2))],
    ['a squared sine', signal((n) => Math.max(-0.5, Math.min(0.5, 9 * Math.sin(0.05 * n))))],
    ['single samples', signal((n) => (n % 977 === 0 ? noise() : 0))],
    ['what lies between samples far below the highest one', hidden(50_000)],
    ['the same around the end of a piece', hidden(65_536 - 12)],
    ['the same before the end', hidden(FRAMES - worst.length - 3)],
    ['the same at the beginning', hidden(2)],
  ])('of %s is that of every phase', (_, x) => {
    expect(truePeak([x]) / everyPhase(x)).toBeCloseTo(1, 5)
  })

  it('is the higher one of both channels’', () => {
    expect(truePeak([signal(() => 0.1), hidden(9)])).toBeCloseTo(rise, 5)
  })
})
