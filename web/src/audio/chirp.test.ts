import { describe, expect, it } from 'vitest'
import { chirp, chirpDelay } from './worklet/chirp'

const rate = 48_000
const sound = chirp(rate)
const noise = (level: number) => Float32Array.from({ length: rate * 0.6 }, (_, n) => level * Math.sin(n * n * 0.37))
const returned = (delay: number, gain: number, level: number) => {
  const heard = noise(level)
  sound.forEach((x, n) => (heard[delay + n] += gain * x))
  return heard
}

describe('latency by a looped chirp', () => {
  it.each([
    [0, 1],
    [517, 0.5],
    [4_801, 0.03],
    [20_000, -0.4],
  ])('finds a return after %s frames at gain %s to the frame', (delay, gain) => {
    expect(chirpDelay(sound, returned(delay, gain, 0.001))).toBe(delay)
  })

  it('finds nothing in silence or in noise alone', () => {
    expect(chirpDelay(sound, new Float32Array(rate / 2))).toBeNull()
    expect(chirpDelay(sound, noise(0.1))).toBeNull()
  })
})
