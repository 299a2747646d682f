import { describe, expect, it } from 'vitest'
import { demoPresets } from '@fulgor/core/demo'
import { applyEdit, frozen, readPreset, resolveValues, withToggled, type Preset } from '..'

const pit: Preset = demoPresets[0].preset
const wall: Preset = demoPresets[2].preset

describe('what a foot has switched', () => {
  it('gives what the snapshot would give that stores it', () => {
    for (const { id } of pit.snapshots) {
      const toggled = { drive: true, delay: false, hall: false }
      const stored = Object.entries(toggled).reduce((p, [stage, on]) => applyEdit(p, { type: 'setOn', stage, snapshot: id, on }), pit)
      expect(withToggled(resolveValues(pit, id), toggled)).toEqual(resolveValues(stored, id))
    }
  })

  it('mutes a lane, leaves the others, and passes by what is gone', () => {
    const values = resolveValues(wall, 'full')
    const muted = withToggled(values, { left: false, gone: true })
    expect(muted.left.on).toBe(false)
    expect(muted.right).toBe(values.right)
    expect('gone' in muted).toBe(false)
    expect(withToggled(values, {})).toBe(values)
  })
})

describe('values that are frozen', () => {
  it('give themselves, whatever sources there were, and read as a preset', () => {
    const positions = { pedal1: 0.7, pedal2: 0.2, throw: 1 }
    for (const { id } of pit.snapshots) {
      const values = resolveValues(pit, id, positions)
      const still = { ...frozen(pit, id, values), controls: [], board: undefined }
      expect(resolveValues(still, id)).toEqual(values)
      expect(readPreset(JSON.parse(JSON.stringify(still))).chain).toHaveLength(pit.chain.length)
    }
  })

  it('move only what is live in the snapshot', () => {
    const at = (snapshot: string) => resolveValues(pit, snapshot, { pedal1: 1, throw: 1 })
    // the delay pedal is live in Storm lead and Finale, the throw in Pit strum and Chase
    expect(at('storm').delay.params.mix).toBe(32)
    expect(at('finale').delay.params.feedback).toBe(38)
    expect(at('strum').delay).toMatchObject({ on: true })
    expect(at('strum').delay.params.mix).toBe(45)
    expect(at('lullaby')).toEqual(resolveValues(pit, 'lullaby'))
  })
})
