import { describe, expect, it } from 'vitest'
import { applyEdit, blankPreset, landing, resolveValues, type Edit, type Preset, type Reach } from '..'

const edits: Edit[] = [
  { type: 'addSnapshot', snapshot: 's2', name: 'Chorus' },
  { type: 'addSnapshot', snapshot: 's3', name: 'Storm lead' },
  { type: 'setParam', stage: 'amp', snapshot: 's3', param: 'gain', value: 7 },
  { type: 'setOn', stage: 'cab', snapshot: 's2', on: false },
]
const three = edits.reduce(applyEdit, blankPreset('Three'))
const gain = (preset: Preset) => preset.snapshots.map((s) => resolveValues(preset, s.id).amp.params.gain)
const turned = (lit: string | null, reach: Reach, value: number) =>
  applyEdit(three, {
    type: 'setParam',
    stage: 'amp',
    snapshot: landing(three, { id: 'amp' }, 'gain', lit, reach).snapshot,
    param: 'gain',
    value,
  })

describe('an edit lands where it is heard', () => {
  it('in the lit snapshot, whatever it reaches and whoever holds a value', () => {
    const initial = gain(three)[0]
    expect(gain(turned('s3', 'own', 9))).toEqual([initial, initial, 9])
    // the fault that this is made for: the base would change all but the one that sounds
    expect(gain(turned('s3', 'shared', 9))).toEqual([initial, initial, 9])
    expect(gain(turned('s1', 'own', 9))).toEqual([9, initial, 7])
    expect(gain(turned('s1', 'shared', 9))).toEqual([9, 9, 7])
    expect(gain(turned(null, 'own', 9))).toEqual([9, 9, 7])
  })

  it('and says beforehand which snapshots change', () => {
    const amp = { id: 'amp' }
    expect(landing(three, amp, 'gain', 's1', 'shared')).toEqual({ snapshot: null, changes: ['s1', 's2'], own: false })
    expect(landing(three, amp, 'gain', 's3', 'shared')).toEqual({ snapshot: 's3', changes: ['s3'], own: true })
    expect(landing(three, { id: 'cab' }, 'on', 's1', 'shared').changes).toEqual(['s1', 's3'])
    expect(landing(three, { id: 'cab' }, 'bench', 's2', 'own')).toEqual({ snapshot: 's2', changes: ['s2'], own: false })
    // a lone snapshot is its base
    expect(landing(blankPreset('One'), amp, 'gain', 's1', 'own')).toEqual({ snapshot: null, changes: ['s1'], own: false })
  })

  it('stays with the snapshot while a drag passes the value of the base', () => {
    const base = gain(three)[0]
    let preset = three
    for (const value of [6, Number(base), 4])
      preset = applyEdit(preset, {
        type: 'setParam',
        stage: 'amp',
        snapshot: landing(preset, { id: 'amp' }, 'gain', 's3', 'shared').snapshot,
        param: 'gain',
        value,
      })
    expect(gain(preset)).toEqual([base, base, 4])
  })
})
