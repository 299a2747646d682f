import { describe, expect, it } from 'vitest'
import { demoPresets } from '@fulgor/core/demo'
import { applyEdit, snapshotDifference } from '..'

const pit = demoPresets[0].preset

describe('the difference of two snapshots', () => {
  it('is none of a snapshot and itself', () => {
    for (const { id } of pit.snapshots) expect(snapshotDifference(pit, id, id)).toEqual([])
  })

  it('tells every value that changes at the switch, from the top of the chain down', () => {
    // written down from the demo: strum against overture
    expect(snapshotDifference(pit, 'overture', 'strum')).toEqual([
      { stage: 'amp', key: 'gain', a: 3.2, b: 4 },
      { stage: 'eq', key: 'lowCut', a: 88, b: 140 },
      { stage: 'hall', key: 'mix', a: 20, b: 8 },
    ])
  })

  it('turned round has its sides turned round', () => {
    const there = snapshotDifference(pit, 'storm', 'lullaby')
    expect(snapshotDifference(pit, 'lullaby', 'storm')).toEqual(there.map(({ stage, key, a, b }) => ({ stage, key, a: b, b: a })))
    expect(there.some((d) => d.stage === 'drive' && d.key === 'on' && d.a === true && d.b === false)).toBe(true)
  })

  it('against the base is what the snapshot changes, but for what is not heard', () => {
    const keys = (id: string) => snapshotDifference(pit, null, id).map((d) => `${d.stage}.${d.key}`)
    expect(keys('finale')).toEqual(['drive.on', 'drive.gain', 'amp.gain', 'hall.decay'])
    // the delay is off in both: its note value is silent
    const off = applyEdit(pit, { type: 'setOn', stage: 'delay', snapshot: null, on: false })
    const silent = applyEdit(off, { type: 'setParam', stage: 'delay', snapshot: 'overture', param: 'mix', value: 60 })
    expect(snapshotDifference(silent, null, 'overture').some((d) => d.stage === 'delay')).toBe(false)
  })
})
