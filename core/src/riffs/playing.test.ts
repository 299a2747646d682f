import { describe, expect, it } from 'vitest'
import { Deviates, playingKernel, REACH, type Resonator } from './playing'

const deviates = new Deviates(77)
/** Longer than the kernel takes at once, and of an odd length. */
const signal = Float32Array.from({ length: 40_003 }, () => deviates.next() - 0.5)
const firstUnlike = (a: Float32Array, b: Float32Array) => a.findIndex((x, n) => x !== b[n])

describe('kernel of plucked strings, against the plain forms', () => {
  it('answers with every resonator of every string', () => {
    const strings: Resonator[][] = Array.from({ length: 6 }, (_, string) =>
      Array.from({ length: 6 }, (__, k) => {
        const radius = 0.9998 - 0.0001 * k
        return { a1: 2 * radius * Math.cos(0.01 + 0.004 * string + 0.013 * k), a2: radius * radius, gain: 1e-4 * (1 + string) * (2 + k) }
      }),
    )
    const wanted = signal.slice()
    for (const resonators of strings)
      for (const three of [resonators.slice(0, 3), resonators.slice(3)]) {
        const states = three.map(() => [0, 0])
        for (let n = 0; n < signal.length; n++) {
          const sum = three.reduce((all, { a1, a2, gain }, k) => {
            const [before, earlier] = states[k]
            const y = a1 * before - a2 * earlier + gain * signal[n] + 1e-20
            states[k] = [y, before]
            return all + y
          }, 0)
          wanted[n] += sum
        }
      }
    const got = signal.slice()
    playingKernel().answer(got, strings)
    expect(firstUnlike(got, wanted)).toBe(-1)
    expect(got[30_000]).not.toBe(signal[30_000])
  })

  it.each([40_003, 16_384, 3])('doubles the rate, to %s frames', (frames) => {
    const half = signal.subarray(0, Math.ceil(frames / 2) + 2 * REACH)
    const taps = Float64Array.from({ length: REACH }, (_, k) => (k % 2 ? -0.6 : 0.6) / (k + 1))
    const at = (n: number) => (n >= 0 && n < half.length ? half[n] : 0)
    const wanted = Float32Array.from({ length: frames }, (_, n) => {
      if (n % 2 === 0) return at(n / 2)
      let sum = 0
      for (let k = 0; k < REACH; k++) sum += taps[k] * (at((n - 1) / 2 - k) + at((n + 1) / 2 + k))
      return sum
    })
    expect(firstUnlike(playingKernel().doubled(half, taps, frames), wanted)).toBe(-1)
  })

  it.each([4_800, 40_003])('sends a signal through the coil, its last %s frames first', (lead) => {
    const [b0, b1, b2, a1, a2] = [0.05, 0.09, 0.04, -1.5, 0.7]
    const wanted = signal.slice()
    let [z1, z2] = [0, 0]
    const run = (x: number) => {
      const y = b0 * x + z1
      z1 = b1 * x - a1 * y + z2
      z2 = b2 * x - a2 * y
      return Math.fround(y) * 0.3
    }
    signal.subarray(signal.length - Math.min(lead, 16_384)).forEach(run)
    signal.forEach((x, n) => (wanted[n] = run(x)))
    const got = signal.slice()
    playingKernel().throughCoil(got, [b0, b1, b2, a1, a2], 0.3, Math.min(lead, 16_384))
    expect(firstUnlike(got, wanted)).toBe(-1)
  })

  it('adds hum and hiss, whose deviates go on where they ended', () => {
    const w = (2 * Math.PI * 50) / 48_000
    const [mine, its] = [new Deviates(5), new Deviates(5)]
    let [sin, cos] = [0, 1]
    const wanted = signal.map((x, n) => {
      if (n % 4_096 === 0) [sin, cos] = [Math.sin(w * n), Math.cos(w * n)]
      const twice = 2 * sin * cos
      const wave = 0.6 * sin + twice + 0.4 * 2 * twice * (1 - 2 * sin * sin)
      const y = x + (2e-3 * (mine.next() + mine.next() - 1) + 3e-2 * wave)
      ;[sin, cos] = [sin * Math.cos(w) + cos * Math.sin(w), cos * Math.cos(w) - sin * Math.sin(w)]
      return y
    })
    const got = signal.slice()
    playingKernel().addNoise(got, w, 3e-2, 2e-3, [0.6, 1, 0.4], its)
    expect(firstUnlike(got, wanted)).toBe(-1)
    expect(its.next()).toBe(mine.next())
  })
})

it('deviates lie evenly between 0 and 1, and are the same for the same seed', () => {
  const [a, b] = [new Deviates(1), new Deviates(1)]
  const drawn = Array.from({ length: 20_000 }, a.next)
  expect(drawn.slice(0, 50)).toEqual(Array.from({ length: 50 }, b.next))
  expect(Math.min(...drawn)).toBeGreaterThanOrEqual(0)
  expect(Math.max(...drawn)).toBeLessThan(1)
  const mean = drawn.reduce((sum, x) => sum + x, 0) / drawn.length
  // four standard deviations of a mean of so many
  expect(Math.abs(mean - 0.5)).toBeLessThan(4 / Math.sqrt(12 * drawn.length))
  const squares = drawn.reduce((sum, x) => sum + (x - mean) ** 2, 0) / drawn.length
  expect(squares).toBeCloseTo(1 / 12, 2)
})
