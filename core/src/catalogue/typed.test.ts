import { describe, expect, it } from 'vitest'
import { repeatsUntilSilence } from '@fulgor/core/stage'
import { modelOf, parseValue, quantity, type NumberSpec, type Typing } from '.'

const of = (model: string, key: string) => modelOf(model).params[key] as NumberSpec
const gain = of('amp.lantern', 'gain')
const power = of('amp.lantern', 'power')
const level = of('output', 'level')
const drive = of('drive.mid-hump', 'level')
const mix = of('delay.digital', 'mix')
const feedback = of('delay.digital', 'feedback')
const time = of('delay.digital', 'time')
const cut = of('eq.parametric', 'highCut')
const pan = of('lane', 'pan')
const interval = of('pitch.interval', 'interval')
const smoothing = quantity('ms', 'Smoothing', [0, 2_000])
const tempo = quantity('bpm', 'Tempo', [20, 400])
const lufs = quantity('lufs', 'The target', [-60, 0])
const count = quantity('count', 'Number of switches', [2, 12])
const width = quantity('q', 'Width', [0.1, 20])
const distance = quantity('mm', 'Distance', [5, 1_500])

const read = (spec: NumberSpec, text: string, typing?: Typing) => {
  const parsed = parseValue(spec, text, typing)
  return parsed.ok ? parsed.value : parsed.reason
}

describe('values as players say them', () => {
  // by hand: a pot runs over 300 degrees from 7:00 to 5:00, so an hour is 1.0 of 10; 10 o'clock is 3, 3 o'clock 8
  it.each([
    [gain, 'noon', 5],
    [gain, 'max', 10],
    [gain, 'Full', 10],
    [gain, 'min', 0],
    [gain, 'off', 0],
    [gain, 'half', 5],
    [gain, "10 o'clock", 3],
    [gain, '3 o’clock', 8],
    [gain, '10:30', 3.5],
    [gain, '68 of 100', 6.8],
    [gain, '68/100', 6.8],
    [gain, '3/10', 3],
    [gain, '68 %', 6.8],
    [gain, '6,5', 6.5],
    [drive, 'noon', 0],
    [mix, 'half', 50],
    [mix, "2 o'clock", 70],
    [mix, '1/4', 25],
    [level, '−4.2 dB', -4.2],
    [level, '+3 dB', 3],
    [level, '±0', 0],
    [pan, 'left', -100],
    [pan, 'hard left', -100],
    [pan, 'hard right', 100],
    [pan, '30 R', 30],
    [pan, 'L30', -30],
    [pan, '9:30', -50],
    [pan, 'noon', 0],
    [cut, '8k', 8_000],
    [cut, '8 kHz', 8_000],
    [interval, '1 octave', 12],
    [interval, '-1 oct', -12],
    [width, 'Q8', 8],
    [width, 'q 0.7', 0.7],
    [distance, '2 in', 50.8],
    [distance, '1 ft', 304.8],
    [distance, '11 cm', 110],
    [smoothing, '0.5 s', 500],
    [lufs, '−18 LUFS', -18],
    [tempo, '96.5 bpm', 96.5],
    [count, '4', 4],
  ])('%o “%s” is %s', (spec, text, value) => expect(read(spec, text)).toBeCloseTo(value, 3))

  // a power ratio: half the watts are −3.01 dB
  it('watts of an amp that says how many it has', () => {
    expect(read(power, '7.5 W')).toBeCloseTo(3.0103, 3)
    expect(read(power, '15 watts')).toBeCloseTo(0, 6)
    expect(read(power, '100 W')).toBe('Power below full starts from 15 W.')
    expect(read(level, '5 W')).toBe('Level is not given in “w”.')
  })

  // 20·log10 of the amplitude: −20 dB is a tenth; three times −20 dB is −60
  it('a feedback in dB, in repeats, and as a bare number', () => {
    expect(read(feedback, '-20 dB')).toBeCloseTo(10, 3)
    expect(read(feedback, '−10.5 dB')).toBeCloseTo(29.854, 2)
    expect(read(feedback, '3 repeats')).toBeCloseTo(10, 3)
    expect(repeatsUntilSilence(Number(read(feedback, '7 repeats')) / 100)).toBe(7)
    expect(parseValue(feedback, '3')).toEqual({ ok: true, value: 3, also: 'for so many repeats: “3 repeats”' })
  })

  // half-power bandwidth: one octave is Q 1.414, two are 0.667 (handbook tables of octave filters)
  it('a width in octaves', () => {
    expect(read(width, '1 octave')).toBeCloseTo(1.414, 3)
    expect(read(width, '2 octaves')).toBeCloseTo(0.667, 3)
  })

  it('note values where there is a tempo, distances as the time that sound takes', () => {
    expect(read(time, '1/8d', { tempo: 120 })).toBe(375)
    expect(read(of('modulation.tremolo', 'rate'), '1/8', { tempo: 120 })).toBe(4)
    expect(read(smoothing, '1/8')).toBe('“1/8” is not a number.')
    // 7 ft at 343 m/s
    expect(read(time, '7 ft')).toBeCloseTo(6.2, 1)
  })

  it('steps from what stands there; a sign alone is the value, and says how to step', () => {
    expect(read(gain, 'up 3', { now: 4 })).toBe(7)
    expect(read(gain, '2 less', { now: 4 })).toBe(2)
    expect(read(level, 'down 1.5 dB', { now: -2 })).toBe(-3.5)
    expect(parseValue(gain, '+3', { now: 4 })).toEqual({ ok: true, value: 3, also: 'for 3 more: “up 3”' })
  })
})

describe('what cannot be taken is refused with the reason', () => {
  it.each([
    [smoothing, '5 Hz', 'Smoothing is not given in “hz”.'],
    [tempo, '5 ms', 'Tempo is not given in “ms”.'],
    [level, '', 'Level needs a number.'],
    [level, '  ', 'Level needs a number.'],
    [gain, '469 msabc', 'Gain is not given in “msabc”.'],
    [gain, '5.03.5', '“5.03.5” is not a number or a clock position.'],
    [gain, '68', 'For 68 of 100: “68 %”.'],
    [cut, '8', 'In kHz: “8k”.'],
    [cut, "5 o'clock", 'High cut has no clock positions.'],
    [gain, "6 o'clock", 'it runs from 7:00 to 5:00'],
    [gain, '7 of 5', 'more than all'],
    [count, '4.5', 'in whole numbers'],
    [count, '13', 'runs from 2 to 12'],
    [pan, '130 R', 'Pan runs from'],
  ])('%o “%s”', (spec, text, reason) => expect(read(spec, text)).toContain(reason))
})
