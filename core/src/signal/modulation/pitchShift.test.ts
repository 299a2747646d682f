import { describe, expect, it } from 'vitest'
import { Machine } from '../kernel/machine'

/** By the definition: the place whose last `length` samples, every fourth of them, have the largest normalised product with those before `at`. */
function likest(sample: (n: number) => number, at: number, write: number, length: number, first: number, last: number): number {
  let [best, most] = [first, -Infinity]
  for (let place = first; place <= last; place += 2) {
    let [product, power] = [0, 1e-9]
    for (let n = -length; n < 0; n += 4) {
      product += sample(at + n) * sample(write - place + n)
      power += sample(write - place + n) ** 2
    }
    const likeness = (product * Math.abs(product)) / power
    if (likeness > most) [best, most] = [place, likeness]
  }
  return best
}

describe('search for a like place', () => {
  it.each([0, 1, 2, 3, 4, 5, 6, 7])('finds what the definition says, over the ring’s end too (%s)', (turn) => {
    const size = 4_096
    const machine = new Machine()
    const ring = machine.make((kernel) => kernel.alloc(4 * size))
    const data = new Float32Array(machine.kernel.memory.buffer, ring, size)
    let seed = 7 + turn
    const noise = () => (seed = (seed * 16_807) % 2_147_483_647) / 2_147_483_647 - 0.5
    for (let n = 0; n < size; n++) data[n] = Math.sin(n * (0.031 + 0.01 * turn)) + 0.4 * Math.sin(n * 0.0971) + 0.1 * noise()
    const sample = (n: number) => data[((n % size) + size) % size]
    for (const [write, delay, length, first, last] of [
      [100, 97, 240, 101, 820],
      [2_000, 300, 238, 333, 333],
      [3_999, 96, 241, 96, 500.5],
      [7, 1_050, 240, 200, 215],
    ]) {
      const found = machine.kernel.pitchBestPlace(ring, size, write, write - delay, length, first, last)
      expect(found).toBe(likest(sample, write - delay, write, length, first, last))
    }
    // nothing to choose from: the nearest
    expect(machine.kernel.pitchBestPlace(ring, size, 100, 50, 240, 60, 59)).toBe(60)
  })
})
