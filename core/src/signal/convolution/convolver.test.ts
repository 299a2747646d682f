import { describe, expect, it } from 'vitest'
import { Convolver, Machine } from '..'

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
  // around the borders of the sections: a chunk, 256, 1,024 and where a response counts as long
  it.each([1, 5, 63, 64, 65, 129, 255, 256, 257, 700, 2048, 6143, 6144, 6145, 7300])(
    'equals the direct sum within −110 dB with %s taps',
    (taps) => {
      const h = noise(taps, 7)
      const x = noise(taps + 2300, 11)
      const expected = directSum(x, h)
      const got = x.slice()
      new Convolver(h).process(got, got.length)
      const peak = Math.max(...expected.map(Math.abs))
      const worst = Math.max(...got.map((y, n) => Math.abs(y - expected[n])))
      expect(20 * Math.log10(worst / peak)).toBeLessThan(-110)
    },
  )

  it.each([900, 7000])('gives the same samples however the signal is cut into chunks (%s taps)', (taps) => {
    const h = noise(taps, 3)
    const x = noise(64 * Math.ceil(taps / 32) + 2048, 5)
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

  it.each([200, 600, 7000])('forgets on reset (%s taps)', (taps) => {
    const convolver = new Convolver(noise(taps, 9))
    convolver.process(noise(taps + 1000, 2), taps + 1000)
    convolver.reset()
    const silence = new Float32Array(taps + 600)
    convolver.process(silence, silence.length)
    expect(silence.every((y) => y === 0)).toBe(true)
  })

  it.each([300, 7000])('loads another response of its length as a new one would have it (%s taps)', (taps) => {
    const convolver = new Convolver(noise(taps, 9))
    convolver.process(noise(taps + 1000, 2), taps + 1000)
    convolver.load(noise(taps, 10))
    const [loaded, fresh] = [noise(taps + 900, 3), noise(taps + 900, 3)]
    convolver.process(loaded, loaded.length)
    new Convolver(noise(taps, 10)).process(fresh, fresh.length)
    expect(loaded).toEqual(fresh)
    expect(() => convolver.load(noise(taps - 1, 1))).toThrow(`takes ${taps} taps`)
  })

  it('gives its memory back', () => {
    const machine = new Machine()
    new Convolver(noise(7000, 1), machine).free()
    const room = machine.kernel.memory.buffer.byteLength
    for (let k = 0; k < 200; k++) new Convolver(noise(7000, 1), machine).free()
    expect(machine.kernel.memory.buffer.byteLength).toBe(room)
  })

  it('says what is wrong with a response', () => {
    expect(() => new Convolver([])).toThrow('1 to 480000 taps')
    expect(() => new Convolver([0, NaN])).toThrow('Tap 1')
  })
})
