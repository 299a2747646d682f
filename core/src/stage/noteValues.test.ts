import { describe, expect, it } from 'vitest'
import { clockPosition, clockToKnob } from '@fulgor/core/catalogue'
import { noteMs, repeatsUntilSilence, repeatStepDb } from '.'

describe('times of the trade', () => {
  // common practice, no source; by hand: one beat is 60,000 / bpm ms
  it.each([
    [120, 'quarter', 500],
    [120, 'eighth-dotted', 375],
    [120, 'eighth', 250],
    [120, 'eighth-triplet', 166.667],
    [123, 'quarter', 487.805],
    [96, 'eighth-dotted', 468.75],
  ])('at %s bpm a %s lasts %s ms', (bpm, note, ms) => {
    expect(noteMs(bpm, note)).toBeCloseTo(ms, 2)
  })

  it('refuses an impossible tempo and an unknown note', () => {
    expect(() => noteMs(0, 'quarter')).toThrow('between 20 and 400')
    expect(() => noteMs(120, 'minim')).toThrow('no note value')
  })

  // common practice, no source
  it.each([
    [0.2, -13.98, 5],
    [0.3, -10.46, 6],
    [0.5, -6.02, 10],
  ])('with feedback %s each repeat is %s dB, %s until −60 dB', (feedback, db, count) => {
    expect(repeatStepDb(feedback)).toBeCloseTo(db, 2)
    expect(repeatsUntilSilence(feedback)).toBe(count)
  })

  it('has one repeat without feedback and no end at full feedback', () => {
    expect(repeatsUntilSilence(0)).toBe(1)
    expect(repeatsUntilSilence(1)).toBe(Infinity)
  })
})

describe('clock positions', () => {
  // common practice, no source: a pot runs from 7 to 5 o'clock
  it.each([
    [0, '7:00'],
    [3.5, '10:30'],
    [5, '12:00'],
    [7, '2:00'],
    [8, '3:00'],
    [10, '5:00'],
  ])('puts %s at %s', (knob, clock) => {
    expect(clockPosition(knob)).toBe(clock)
    const [hour, minute] = clock.split(':').map(Number)
    expect(clockToKnob(hour, minute)).toBeCloseTo(knob, 9)
  })

  it('knows the dead zone', () => {
    expect(clockToKnob(6, 0)).toBeNull()
  })
})
