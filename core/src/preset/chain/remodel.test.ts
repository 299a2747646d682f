import Ajv2020 from 'ajv/dist/2020'
import { describe, expect, it } from 'vitest'
import { applyEdit, blankPreset, createControl, findStage, presetSchema, readPreset, resolveValues, type Edit, type Preset } from '..'

const edits: Edit[] = [
  { type: 'addSnapshot', snapshot: 's2', name: 'Lead' },
  { type: 'setParam', stage: 'amp', snapshot: null, param: 'gain', value: 6.2 },
  { type: 'setParam', stage: 'amp', snapshot: 's2', param: 'gain', value: 8 },
  { type: 'setParam', stage: 'amp', snapshot: 's2', param: 'level', value: 3 },
  { type: 'setOn', stage: 'amp', snapshot: 's2', on: true },
  { type: 'addControl', control: createControl('pedal', 'pedal', 'Pedal') },
  {
    type: 'addTarget',
    control: 'pedal',
    target: { id: 't', stage: 'amp', param: 'gain', from: 2, to: 9, curve: { shape: 'linear', heel: 0, toe: 0 }, snapshots: null },
  },
  {
    type: 'addTarget',
    control: 'pedal',
    target: { id: 'u', stage: 'amp', param: 'mid', from: 0, to: 5, curve: { shape: 'linear', heel: 0, toe: 0 }, snapshots: null },
  },
]
const preset = edits.reduce(applyEdit, blankPreset('Models'))
const changed = (model: string, gainDb = 0): Preset => applyEdit(preset, { type: 'changeModel', stage: 'amp', model, gainDb })

describe('another model in the place of a stage', () => {
  it('keeps place, like-named values, cells and sources', () => {
    const next = changed('amp.ironwork')
    expect(next.chain.map((n) => n.id)).toEqual(['amp', 'cab', 'out'])
    expect(findStage(next, 'amp')).toMatchObject({ model: 'amp.ironwork', params: { gain: 6.2 } })
    expect(resolveValues(next, 's2').amp.params.gain).toBe(8)
    expect(next.controls?.[0].targets).toHaveLength(2)
    expect(readPreset(JSON.parse(JSON.stringify(next)))).toEqual(next)
  })

  it('forgets what has no meaning there, and keeps values inside the new ranges', () => {
    const drive = changed('drive.mid-hump')
    expect(drive.controls?.[0].targets.map((t) => t.param)).toEqual(['gain'])
    const eq = changed('eq.tilt')
    expect(Object.keys(findStage(eq, 'amp')?.params ?? {})).not.toContain('gain')
    expect(eq.snapshots[1].stages.amp).toEqual({ on: true, params: { level: 3 } })
    expect(eq.controls?.[0].targets).toEqual([])
    expect(readPreset(JSON.parse(JSON.stringify(eq)))).toEqual(eq)
  })

  it('brings its level along in every snapshot, held in its range', () => {
    const next = changed('amp.ironwork', -4.5)
    expect(findStage(next, 'amp')?.params.level).toBe(-4.5)
    expect(resolveValues(next, 's2').amp.params.level).toBe(-1.5)
    expect(resolveValues(changed('amp.ironwork', 300), 's2').amp.params.level).toBe(20)
  })

  it('is refused for a lane, and for what is not there', () => {
    expect(() => applyEdit(preset, { type: 'changeModel', stage: 'amp', model: 'lane', gainDb: 0 })).toThrow('lane')
    expect(() => applyEdit(preset, { type: 'changeModel', stage: 'x', model: 'trim', gainDb: 0 })).toThrow('There is no stage “x”')
  })
})

describe('a stage', () => {
  it('has a name of its own that is kept, or its model’s', () => {
    const named = applyEdit(preset, { type: 'nameStage', stage: 'amp', name: 'Left stack' })
    expect(readPreset(JSON.parse(JSON.stringify(named)))).toEqual(named)
    const validate = new Ajv2020({ strict: false }).compile(presetSchema())
    expect([validate(named), validate(preset)]).toEqual([true, true])
    expect(applyEdit(named, { type: 'nameStage', stage: 'amp', name: '' }).chain).toEqual(preset.chain)
    expect(() => readPreset({ ...named, chain: [{ ...findStage(named, 'amp'), name: 'x'.repeat(41) }] })).toThrow('chain[0].name')
  })
})
