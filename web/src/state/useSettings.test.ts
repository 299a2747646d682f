import { describe, expect, it } from 'vitest'
import { demoPresets } from '@fulgor/core/demo'
import { applyEdit, type Edit } from '@fulgor/core/preset'
import { sameSettings } from './useSettings'

const { preset } = demoPresets[0]
const [first] = preset.snapshots
const stays: readonly (readonly [string, Edit])[] = [
  ['a value in the base', { type: 'setParam', stage: 'amp', snapshot: null, param: 'bass', value: 7.3 }],
  ['a value of a snapshot', { type: 'setParam', stage: 'amp', snapshot: first.id, param: 'bass', value: 7.3 }],
  ['a stage switched', { type: 'setOn', stage: 'eq', snapshot: null, on: false }],
]
const moves: readonly (readonly [string, Edit])[] = [
  ['its name', { type: 'rename', name: 'Another' }],
  ['its target', { type: 'setTarget', lufs: -17 }],
  ['its riff', { type: 'setRiff', riff: { ...preset.riff, strength: preset.riff.strength === 'soft' ? 'hard' : 'soft' } }],
  ['a snapshot’s name', { type: 'renameSnapshot', snapshot: first.id, name: 'Another' }],
  ['a snapshot more', { type: 'duplicateSnapshot', source: first.id, snapshot: 'new', name: 'More' }],
]

describe('the settings of a preset', () => {
  it.each(stays)('are the same after %s', (_, edit) => {
    expect(sameSettings(preset, applyEdit(preset, edit))).toBe(true)
  })

  it.each(moves)('are others after %s', (_, edit) => {
    expect(sameSettings(preset, applyEdit(preset, edit))).toBe(false)
  })

  it('are others with another preset, or none', () => {
    expect(sameSettings(preset, demoPresets[1].preset)).toBe(false)
    expect(sameSettings(preset, null)).toBe(false)
    expect(sameSettings(null, null)).toBe(true)
  })
})
