import { describe, expect, it } from 'vitest'
import { demoPresets } from '@fulgor/core/demo'
import { applyEdit, findStage, resolveStage, type Preset, type StageNode } from '@fulgor/core/preset'
import { namedParam, typedValue } from './typedValue'

const pit = demoPresets[0].preset
const stage = (id: string): StageNode => findStage(pit, id) ?? pit.chain.filter((n) => n.kind === 'stage')[0]
const typed = (id: string, param: string, text: string, preset: Preset = pit) =>
  typedValue(preset, stage(id), { lit: 'storm', goes: () => 'storm' }, param, text)
const after = (id: string, param: string, text: string) => {
  const read = typed(id, param, text)
  if (!read.ok) throw new Error(read.reason)
  const next = applyEdit(pit, read.edit)
  return resolveStage(next, findStage(next, id) ?? stage(id), 'storm').params
}

describe('a typed value', () => {
  it('becomes an edit of the snapshot that it goes to', () => {
    expect(typed('amp', 'gain', 'noon')).toEqual({
      ok: true,
      edit: { type: 'setParam', stage: 'amp', snapshot: 'storm', param: 'gain', value: 5 },
      also: null,
    })
  })

  it('sets the note of a time that can follow the tempo, and frees it for a number', () => {
    expect(after('delay', 'time', '1/4').note).toBe('quarter')
    expect(after('delay', 'time', '412 ms')).toMatchObject({ note: 'free', time: 412 })
  })

  it('is refused with the reason', () => {
    expect(typed('amp', 'gain', '12')).toEqual({ ok: false, reason: expect.stringContaining('10') as string })
    expect(typed('amp', 'gain', 'purple')).toMatchObject({ ok: false })
  })

  it('may name its parameter first', () => {
    expect(namedParam('amp.lantern', 'Gain 7')).toEqual({ key: 'gain', rest: '7' })
    expect(namedParam('amp.lantern', '7')).toBeNull()
    expect(namedParam('amp.lantern', 'gain')).toBeNull()
  })
})
