import { describe, expect, it } from 'vitest'
import { clock, figure, when } from './format'

describe('figures', () => {
  it.each([
    [-6, 1, false, '−6.0'],
    [6, 1, true, '+6.0'],
    [0.04, 1, true, '±0.0'],
    [-0.04, 1, false, '0.0'],
    [1234.5, 0, false, '1235'],
    [-12.345, 2, false, '−12.35'],
  ])('%s with %s places is “%s”', (value, places, sign, text) => {
    expect(figure(value, places, sign)).toBe(text)
  })

  it.each([null, undefined, NaN, Infinity])('%s is no figure', (value) => {
    expect(figure(value)).toBe('–')
  })
})

describe('times', () => {
  it('say today, or the day', () => {
    const now = new Date()
    expect(when(now.getTime())).toBe(`today ${clock(now.getTime())}`)
    expect(when(new Date(2026, 2, 7, 9, 5).getTime())).toBe('7 Mar 2026, 09:05')
  })
})
