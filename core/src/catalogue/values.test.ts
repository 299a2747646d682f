import { describe, expect, it } from 'vitest'
import { catalogue, formatValue, fromTravel, modelOf, nudge, parseValue, potDb, potMark, toTravel, type NumberSpec } from '.'

const gain = modelOf('amp.lantern').params.gain as NumberSpec
const cut = modelOf('eq.parametric').params.highCut as NumberSpec
const time = modelOf('delay.digital').params.time as NumberSpec
const level = modelOf('output').params.level as NumberSpec

describe('a level that is a pot', () => {
  const pot = modelOf('drive.mid-hump').params.level as NumberSpec

  // common practice, no source: an audio taper gives 10 % at half travel, so noon lies 20 dB under full
  it.each([
    [5, 0],
    [10, 20],
    [7.5, 10.24],
  ])('at %s of 10 is %s dB', (mark, db) => {
    expect(potDb(pot, mark)).toBeCloseTo(db, 1)
    expect(potMark(pot, potDb(pot, mark))).toBeCloseTo(mark, 6)
  })

  it('takes marks as bare numbers or on the clock, dB with sign or unit', () => {
    const read = (text: string) => {
      const parsed = parseValue(pot, text)
      return parsed.ok ? parsed.value : parsed.reason
    }
    expect(read('5')).toBeCloseTo(0, 3)
    expect(read('12:00')).toBeCloseTo(0, 3)
    expect(read('+3')).toBe(3)
    expect(read('−4 dB')).toBe(-4)
    expect(read('2 dB')).toBe(2)
    expect(read('11')).toMatch(/0 to 10 on its pot/)
    expect(toTravel(pot, 0)).toBeCloseTo(0.5, 6)
    expect(fromTravel(pot, 0.5)).toBe(0)
  })
})

describe('typed values', () => {
  it.each([
    [gain, '6.8', 6.8],
    [gain, '6,8', 6.8],
    [gain, '68 %', 6.8],
    [gain, '2:00', 7],
    [gain, "10:30 o'clock", 3.5],
    [cut, '6.8k', 6800],
    [cut, '6.8 kHz', 6800],
    [cut, '8000hz', 8000],
    [time, '0.4 s', 400],
    [level, '\u22124.2 dB', -4.2],
  ])('reads %o “%s” as %s', (spec, text, value) => {
    expect(parseValue(spec, text)).toMatchObject({ ok: true, value })
  })

  it.each([
    [gain, 'loud', 'not a number or a clock position'],
    [gain, '11', 'runs from 0.0 to 10.0'],
    [gain, '6:00', 'no place on a pot'],
    [cut, '5 ms', 'not given in “ms”'],
  ])('refuses %o “%s” with the reason', (spec, text, reason) => {
    const parsed = parseValue(spec, text)
    expect(parsed.ok ? '' : parsed.reason).toContain(reason)
  })

  it('takes the label or the value of a choice', () => {
    const slope = modelOf('eq.parametric').params.highSlope
    expect(parseValue(slope, '12 dB/oct')).toMatchObject({ ok: true, value: '12' })
    expect(parseValue(slope, '24')).toMatchObject({ ok: true, value: '24' })
    expect(parseValue(slope, '18').ok).toBe(false)
  })

  it('writes units and a true minus sign', () => {
    expect(formatValue(level, -4.2)).toBe('\u22124.2 dB')
    expect(formatValue(cut, 6800)).toBe('6.8 kHz')
    expect(formatValue(time, 468.75)).toBe('469 ms')
    expect(formatValue(level, -0.01)).toBe('0.0 dB')
  })
})

describe('every parameter of the catalogue', () => {
  const numbers = catalogue.flatMap((m) =>
    Object.entries(m.params).flatMap(([key, p]) => (p.kind === 'number' ? [[`${m.id} ${key}`, p] as const] : [])),
  )

  it.each(numbers)('%s: travel, text and arrow keys lead back to its values', (_, spec) => {
    expect(spec.initial).toBeGreaterThanOrEqual(spec.min)
    expect(spec.initial).toBeLessThanOrEqual(spec.max)
    expect(fromTravel(spec, 0)).toBe(spec.min)
    expect(fromTravel(spec, 1)).toBe(spec.max)
    expect(toTravel(spec, fromTravel(spec, 0.4))).toBeCloseTo(0.4, 1)
    expect(parseValue(spec, formatValue(spec, spec.initial).replace(/^Q /, '')).ok).toBe(true)
    const up = nudge(spec, spec.initial, 1)
    if (spec.initial < spec.max) expect(up).toBeGreaterThan(spec.initial)
    const fine = nudge(spec, spec.initial, 0.1)
    if (spec.initial < spec.max) expect(fine).toBeGreaterThan(spec.initial)
    expect(fine).toBeLessThanOrEqual(up)
    expect(nudge(spec, spec.max, 10)).toBe(spec.max)
    expect(nudge(spec, spec.min, -10)).toBe(spec.min)
  })

  it('has models with headline parameters that exist, and unique ids', () => {
    expect(new Set(catalogue.map((m) => m.id)).size).toBe(catalogue.length)
    for (const model of catalogue) for (const key of model.headline) expect(model.params).toHaveProperty(key)
  })
})
