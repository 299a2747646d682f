import { describe, expect, it } from 'vitest'
import { Convolver } from '..'

const noise = (length: number, seed: number) => {
  let state = seed
  return Float32Array.from({ length }, () => ((state = (state * 16807) % 2147483647) / 2147483647) * 2 - 1)
}

/** The definition of convolution. */
function directSum(x: Float32Array, h: Float32Array): Float32Array {
  return x.map((_, n) => {
    let sum = 0
    for (let k = 0; k < h.length && k <= n; k++) sum += h[k] * x[n - k]
    return sum
  })
}

describe('convolver', () => {
  it.each([1, 5, 127, 128, 129, 700, 2048])('equals the direct sum within −110 dB with %s taps', (taps) => {
    const h = noise(taps, 7)
    const x = noise(3000, 11)
    const expected = directSum(x, h)
    const got = x.slice()
    new Convolver(h).process(got, got.length)
    const peak = Math.max(...expected.map(Math.abs))
    const worst = Math.max(...got.map((y, n) => Math.abs(y - expected[n])))
    expect(20 * Math.log10(worst / peak)).toBeLessThan(-110)
  })

  it('gives the same samples however the signal is cut into chunks', () => {
    const h = noise(900, 3)
    const x = noise(4096, 5)
    const whole = x.slice()
    new Convolver(h).process(whole, whole.length)
    const cut = x.slice()
    const convolver = new Convolver(h)
    for (let at = 0, chunks = 1; at < cut.length; chunks = ((chunks * 7 + 3) % 8) + 1) {
      const size = Math.min(64 * chunks, cut.length - at)
      convolver.process(cut.subarray(at, at + size), size)
      at += size
    }
    expect(cut).toEqual(whole)
    // a chunk that ends early has been filled up with silence
    convolver.process(new Float32Array(100), 100)
    expect(() => convolver.process(new Float32Array(64), 64)).toThrow('ended within a chunk')
    convolver.reset()
    expect(() => convolver.process(new Float32Array(64), 64)).not.toThrow()
  })

  it('forgets on reset', () => {
    const convolver = new Convolver(noise(300, 9))
    convolver.process(noise(1000, 2), 1000)
    convolver.reset()
    const silence = new Float32Array(600)
    convolver.process(silence, 600)
    expect(silence.every((y) => y === 0)).toBe(true)
  })

  it('loads another response of its length as a new one would have it', () => {
    const convolver = new Convolver(noise(300, 9))
    convolver.process(noise(1000, 2), 1000)
    convolver.load(noise(300, 10))
    const [loaded, fresh] = [noise(900, 3), noise(900, 3)]
    convolver.process(loaded, 900)
    new Convolver(noise(300, 10)).process(fresh, 900)
    expect(loaded).toEqual(fresh)
    expect(() => convolver.load(noise(299, 1))).toThrow('takes 300 taps')
  })

  it('says what is wrong with a response', () => {
    expect(() => new Convolver([])).toThrow('1 to 480000 taps')
    expect(() => new Convolver([0, NaN])).toThrow('Tap 1')
  })
})
