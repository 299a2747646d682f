import { describe, expect, it } from 'vitest'
import { noteOf, pitchOf } from '.'

const RATE = 48_000
const tone = (hz: number, partials: readonly number[], frames = 4_096, rate = RATE) =>
  Float64Array.from({ length: frames }, (_, i) =>
    partials.reduce((sum, level, k) => sum + level * Math.sin((2 * Math.PI * hz * (k + 1) * i) / rate + k), 0),
  )
const cents = (a: number, b: number) => 1200 * Math.log2(a / b)

// open strings of a guitar in equal temperament at A 440, Hz: 440·2^((n−69)/12), ISO 16:1975
const STRINGS = [82.4069, 110, 146.8324, 195.9977, 246.9417, 329.6276]

describe('pitch', () => {
  it.each(STRINGS)('finds %f Hz within a cent, with and without a strong fundamental', (hz) => {
    for (const partials of [[0.3], [0.1, 0.2, 0.15, 0.1], [0.02, 0.2, 0.1, 0.1, 0.05]]) {
      const found = pitchOf(tone(hz, partials), RATE)
      expect(Math.abs(cents(found?.hz ?? 0, hz))).toBeLessThan(1)
    }
  })

  it('hears three cents of mistuning, low tunings and high frets, and another rate', () => {
    expect(cents(pitchOf(tone(110 * 2 ** (3 / 1200), [0.2, 0.1]), RATE)?.hz ?? 0, 110)).toBeCloseTo(3, 0)
    for (const hz of [55, 61.735, 880, 1318.51]) expect(Math.abs(cents(pitchOf(tone(hz, [0.2, 0.1]), RATE)?.hz ?? 0, hz))).toBeLessThan(2)
    expect(pitchOf(tone(196, [0.2], 4_096, 44_100), 44_100)?.hz).toBeCloseTo(196, 0)
  })

  it('says nothing in silence and noise, and that it needs more', () => {
    expect(pitchOf(new Float64Array(4_096), RATE)).toBeNull()
    let seed = 1
    const noise = Float64Array.from({ length: 4_096 }, () => (seed = (seed * 16_807) % 2_147_483_647) / 1_073_741_823 - 1)
    expect(pitchOf(noise, RATE)).toBeNull()
    expect(() => pitchOf(new Float64Array(500), RATE)).toThrow('A pitch needs 1849 samples')
  })

  it('names notes', () => {
    expect(noteOf(440)).toEqual({ name: 'A', octave: 4, cents: 0 })
    expect(noteOf(82.4069)).toMatchObject({ name: 'E', octave: 2 })
    expect(noteOf(261.6256)).toMatchObject({ name: 'C', octave: 4 })
    expect(noteOf(246.9417 * 2 ** (-20 / 1200)).cents).toBeCloseTo(-20, 1)
    expect(noteOf(432, 432).cents).toBe(0)
  })
})
