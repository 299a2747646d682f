import { describe, expect, it } from 'vitest'
import { proposeGate } from '.'

const RATE = 48_000
/** Notes at a peak of 0.1 (−20 dBFS) that fall by so many dB a second, one every second. */
const notes = (dbPerSecond: number, count = 3) =>
  Float32Array.from({ length: count * RATE }, (_, n) => {
    const t = (n % RATE) / RATE
    return 0.1 * Math.pow(10, (-dbPerSecond * t) / 20) * Math.sin(2 * Math.PI * 440 * t)
  })

describe('a gate that is proposed', () => {
  it('opens 8 dB and closes 4 dB above the noise’s peaks', () => {
    expect(proposeGate(notes(60), -70, RATE)).toMatchObject({ opensAt: -62, closesAt: -66 })
  })

  it('costs what a constructed decay says: from −66 to −70 at 60 dB a second are 67 ms, less 40 of hold', () => {
    const { notes: count, earlierMs, mostMs } = proposeGate(notes(60), -70, RATE)
    expect(count).toBe(3)
    expect(earlierMs).toBeGreaterThan(20)
    expect(earlierMs).toBeLessThan(34)
    expect(mostMs).toBeLessThan(34)
  })

  it('costs more on slower decays: at 20 dB a second, above a noise at −35, 200 ms less the hold', () => {
    // −31 to −35 at 20 dB a second
    const { earlierMs } = proposeGate(notes(20), -35, RATE)
    expect(earlierMs).toBeGreaterThan(150)
    expect(earlierMs).toBeLessThan(170)
  })

  it('costs nothing where no note falls so low, and stays within the gate’s range', () => {
    expect(proposeGate(notes(20), -70, RATE)).toMatchObject({ notes: 0, earlierMs: 0, mostMs: 0 })
    expect(proposeGate(notes(20), -10, RATE).opensAt).toBe(-20)
    expect(proposeGate(new Float32Array(RATE), -120, RATE).opensAt).toBe(-90)
  })
})
