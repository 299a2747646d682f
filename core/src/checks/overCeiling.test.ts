import { describe, expect, it } from 'vitest'
import { applyEdit, blankPreset, findStage, resolveStage } from '@fulgor/core/preset'
import { overCeiling } from '.'

const two = applyEdit(blankPreset('Hot'), { type: 'addSnapshot', snapshot: 'lead', name: 'Lead' })

describe('a snapshot above the ceiling', () => {
  it('is found above −1 dBTP (EBU R 128) and not below, nor while nothing is measured', () => {
    expect(overCeiling(two, { s1: -1, lead: null })).toEqual([])
    expect(overCeiling(two, {})).toEqual([])
    const [finding] = overCeiling(two, { s1: -0.9, lead: -3 })
    expect(finding.figure).toContain('Main leaves at −0.9 dBTP')
    expect(finding.reason).toContain('Between samples')
    expect(overCeiling(two, { s1: -2, lead: 14.2 })[0].reason).toContain('Above 0')
  })

  it('is lowered by what it is above, that snapshot alone', () => {
    const [{ mends }] = overCeiling(two, { s1: -6, lead: 4.3 })
    const mended = applyEdit(two, { type: 'all', edits: mends[0].edits })
    const out = findStage(mended, 'out')
    expect(out && resolveStage(mended, out, 'lead').params.level).toBeCloseTo(-5.3, 6)
    expect(out && resolveStage(mended, out, 's1').params.level).toBe(0)
  })

  it('has no mend where nothing trims it exactly', () => {
    const moved = applyEdit(two, { type: 'moveStage', stage: 'out', lane: null, index: 0 })
    expect(overCeiling(moved, { s1: 2 })[0].mends).toEqual([])
  })
})
