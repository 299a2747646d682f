import { describe, expect, it } from 'vitest'
import { demoPresets } from '@fulgor/core/demo'
import { applyEdit, createControl, type Control, type Preset, createTarget } from '@fulgor/core/preset'
import { checkPreset } from '.'

/** Without what its feet do already. */
const pit: Preset = { ...demoPresets[0].preset, controls: [], board: undefined }

function withControls(...controls: (Partial<Control> & { id: string })[]): Preset {
  return controls.reduce((p, c) => applyEdit(p, { type: 'addControl', control: { ...createControl(c.id, 'pedal', c.id), ...c } }), pit)
}
const rules = (preset: Preset) => checkPreset(preset, () => 'x').map((f) => f.rule)

/** Each mend takes its own finding away. */
function mends(preset: Preset, rule: string): void {
  const finding = checkPreset(preset, () => 'x').find((f) => f.rule === rule)
  expect(finding, rule).toBeDefined()
  // the page shows it beside its source
  expect(preset.controls?.some((c) => finding?.controls?.includes(c.id))).toBe(true)
  const count = rules(preset).filter((r) => r === rule).length
  for (const { label, edits } of finding?.mends ?? [])
    expect(rules(applyEdit(preset, { type: 'all', edits })).filter((r) => r === rule).length, label).toBeLessThan(count)
}

describe('conflicts of sources', () => {
  it('one parameter under two of them', () => {
    const preset = withControls(
      { id: 'a', targets: [createTarget('t1', 'hall', 'decay', 1.4, 3.6)] },
      { id: 'b', targets: [createTarget('t2', 'hall', 'decay', 1, 2)] },
    )
    expect(rules(preset)).toContain('moved-twice')
    mends(preset, 'moved-twice')
    const apart = withControls(
      { id: 'a', targets: [{ ...createTarget('t1', 'hall', 'lowCut', 160, 300), snapshots: ['storm'] }] },
      { id: 'b', targets: [{ ...createTarget('t2', 'hall', 'lowCut', 160, 300), snapshots: ['strum'] }] },
    )
    expect(rules(apart)).toEqual([])
  })

  it('a time that follows the tempo', () => {
    const preset = withControls({ id: 'a', targets: [createTarget('t1', 'delay', 'time', 200, 600)] })
    expect(rules(preset)).toContain('moved-synced-time')
    mends(preset, 'moved-synced-time')
  })

  it('a snapshot that stores another value than the source gives', () => {
    // storm stores 24 % for the delay's mix
    const keep = withControls({ id: 'a', onSnapshot: 'keep', targets: [createTarget('t1', 'delay', 'mix', 0, 40)] })
    const found = checkPreset(keep, () => 'x').filter((f) => f.rule === 'stored-under-source')
    expect(found[0].figure).toContain('stores 24 %')
    mends(keep, 'stored-under-source')
    mends(withControls({ id: 'a', targets: [createTarget('t1', 'delay', 'mix', 0, 40)] }), 'stored-under-source')
    expect(rules(withControls({ id: 'a', onSnapshot: 'pickup', targets: [createTarget('t1', 'delay', 'mix', 0, 40)] }))).toEqual([])
  })

  it('a source that rests at full tilt', () => {
    const preset = withControls({ id: 'a', rest: 1, targets: [createTarget('t1', 'drive', 'gain', 2, 10)] })
    expect(rules(preset)).toContain('live-at-maximum')
    mends(preset, 'live-at-maximum')
  })

  // the gain runs from 0 to 10: from nine tenths of its range on it is as good as full up
  it.each([
    [0.9, true],
    [0.875, true],
    [0.86, false],
    [0.5, false],
  ])('a source that rests at %s of a travel from 2 to 10: told %s', (rest, told) => {
    const preset = withControls({ id: 'a', rest, targets: [createTarget('t1', 'drive', 'gain', 2, 10)] })
    expect(rules(preset).includes('live-at-maximum')).toBe(told)
  })
})
