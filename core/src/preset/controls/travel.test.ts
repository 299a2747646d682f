import { describe, expect, it } from 'vitest'
import { modelOf } from '@fulgor/core/catalogue'
import { inputDbAt, LINEAR, loudnessJump, placeOfValue, stillTwentieths } from '..'

const along = (f: (x: number) => number | null) => Array.from({ length: 21 }, (_, i) => f(i / 20))

describe('a travel', () => {
  it('jumps where one step is far larger than the others', () => {
    expect(loudnessJump(along((x) => (x < 0.5 ? -20 : -14)))).toEqual({ at: 10, by: 6 })
    expect(loudnessJump(along((x) => (x < 0.5 ? -20 : -19)))).toBeNull()
    // a volume pedal goes 60 dB, and evenly
    expect(loudnessJump(along((x) => -80 + 60 * x))).toBeNull()
    // a late one rises by 11 of 60 dB at its very end: (e^4 − e^3.8)/(e^4 − 1)
    const late = along((x) => -60 + (60 * Math.expm1(4 * x)) / Math.expm1(4))
    expect(loudnessJump(late)?.by).toBeCloseTo((60 * (Math.exp(4) - Math.exp(3.8))) / Math.expm1(4), 9)
    expect(loudnessJump(along((x) => (x === 0 ? null : -20)))).toBeNull()
    expect(loudnessJump([])).toBeNull()
    // what happens 30 LU under the rest is not heard as a jump
    expect(loudnessJump(along((x) => (x === 0 ? -60 : x < 0.1 ? -45 : -20 + x)))?.at).toBe(2)
    expect(loudnessJump([-60, -50, -45, -24, -22, -20])).toBeNull()
  })

  it('stands still in dead zones, on flat stretches and where both ends are the same', () => {
    const { level } = modelOf('output').params
    const target = { from: -20, to: 0, curve: LINEAR }
    expect(stillTwentieths(level, target)).toBe(0)
    expect(stillTwentieths(level, { ...target, curve: { ...LINEAR, heel: 0.4, toe: 0.4 } })).toBe(16)
    expect(stillTwentieths(level, { ...target, to: -20 })).toBe(20)
    expect(
      stillTwentieths(level, {
        ...target,
        curve: {
          ...LINEAR,
          shape: 'points',
          points: [
            [0, 0],
            [0.5, 0],
            [1, 1],
          ],
        },
      }),
    ).toBe(10)
  })

  it('of what listens to the input goes with the input', () => {
    expect(inputDbAt({ kind: 'volume', low: -50, high: -12 }, 0)).toBe(-38)
    expect(inputDbAt({ kind: 'envelope', low: -50, high: -10 }, 0.75)).toBe(-10)
    expect(inputDbAt({ kind: 'pedal', low: -50, high: -10 }, 0)).toBe(0)
  })

  it('is placed on the range of its parameter', () => {
    const { note } = modelOf('delay.digital').params
    expect(placeOfValue(note, note.kind === 'choice' ? note.options[0].value : '')).toBe(0)
    expect(placeOfValue(note, note.kind === 'choice' ? note.options[note.options.length - 1].value : '')).toBe(1)
    expect(placeOfValue(null, 0.3)).toBe(0.3)
  })
})
