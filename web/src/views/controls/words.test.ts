import { describe, expect, it } from 'vitest'
import { demoPresets } from '@fulgor/core/demo'
import { createControl, LINEAR, type Preset } from '@fulgor/core/preset'
import { bindingWords, curveWords, movable, specOf, targetName, valueWords } from './words'

const pit = demoPresets[0].preset
const wall = demoPresets[2].preset

describe('words of the controls', () => {
  it('name a target by its stage, numbered where there are several, and by its parameter', () => {
    expect(targetName(pit, { stage: 'delay', param: 'mix' })).toBe('Delay, mix')
    expect(targetName(pit, { stage: 'delay', param: 'on' })).toBe('Delay, on and off')
    expect(targetName(wall, { stage: 'cab2', param: 'level' })).toMatch(/^Cabinet 2, /)
    expect(targetName(wall, { stage: 'left', param: 'pan' })).toMatch(/, pan$/)
    const macro = { ...pit, controls: [createControl('m', 'macro', 'More')] }
    expect(targetName(macro, { stage: 'm', param: 'position' })).toBe('More, position')
    expect(targetName(pit, { stage: 'nowhere', param: 'mix' })).toBe('gone, mix')
  })

  it('say a value in its unit, a switch and a position', () => {
    expect(valueWords(specOf(pit, { stage: 'delay', param: 'time' }), 'time', 469)).toBe('469 ms')
    expect(valueWords(specOf(pit, { stage: 'out', param: 'level' }), 'level', -3)).toBe('−3.0 dB')
    expect(valueWords(null, 'on', 0.4)).toBe('off')
    expect(valueWords(null, 'on', 1)).toBe('on')
    expect(valueWords(null, 'position', 0.62)).toBe('62 %')
  })

  it('describe a curve with its dead zones', () => {
    expect(curveWords(LINEAR)).toBe('straight')
    expect(curveWords({ shape: 's', heel: 0.2, toe: 0.1 })).toBe('S, from 20 %, to 90 %')
    expect(curveWords({ shape: 'points', heel: 0, toe: 0, points: [] })).toBe('drawn')
  })

  it('offer every number, choice and switch of every stage and lane, other macros, but no impulse response', () => {
    const preset: Preset = { ...wall, controls: [createControl('m', 'macro', 'One'), createControl('n', 'macro', 'Two')] }
    const parts = movable(preset, createControl('m', 'macro', 'One'))
    expect(parts.map((p) => p.id)).toEqual(expect.arrayContaining(['left', 'right', 'below', 'chime', 'plate1', 'out', 'n']))
    expect(parts.map((p) => p.id)).not.toContain('m')
    for (const { params } of parts) expect(params.some(([key]) => key === 'response')).toBe(false)
    expect(parts.find((p) => p.id === 'left')?.params.map(([key]) => key)).toEqual(expect.arrayContaining(['level', 'pan', 'on']))
  })

  it('say what is listened to', () => {
    expect(bindingWords(null)).toBe('none')
    expect(bindingWords({ type: 'cc', channel: 0, number: 11 })).toBe('controller 11, any channel')
    expect(bindingWords({ type: 'note', channel: 3, number: 60 })).toBe('note 60, channel 3')
  })
})
