import { describe, expect, it } from 'vitest'
import { demoPresets } from '@fulgor/core/demo'
import { applyEdit, createControl, findStage, readPreset, readyMoveEdit, readyMoves, resolveValues, stagesOf, type Preset } from '..'

/** Without what its feet do already. */
const pit: Preset = { ...demoPresets[0].preset, controls: [], board: undefined }

function make(id: string, preset: Preset = pit) {
  let n = 0
  const move = readyMoves.find((m) => m.id === id)
  if (!move) throw new Error(id)
  const { edit, control } = readyMoveEdit(move, { preset, snapshot: null, newId: () => `n${++n}` }, null)
  const made = applyEdit(preset, edit)
  return { made, id: control, at: (position: number) => resolveValues(made, null, { [control]: position }) }
}

it.each(readyMoves.map((m) => m.id))('%s gives a preset that reads, with a source whose targets are there', (id) => {
  const { made } = make(id)
  expect(readPreset(JSON.parse(JSON.stringify(made)))).toEqual(made)
  const control = made.controls?.at(-1)
  expect(control?.targets.length).toBeGreaterThan(0)
  for (const target of control?.targets ?? []) expect(findStage(made, target.stage)).toBeDefined()
})

describe('ready moves', () => {
  it('delay in is silent at the heel and tame at the toe', () => {
    const { at } = make('delay-in')
    expect(at(0).delay.params.mix).toBe(0)
    expect(at(1).delay.params.mix).toBe(25)
    expect(Number(at(1).delay.params.feedback)).toBeLessThanOrEqual(35)
  })

  it('volume before the amp stands before what distorts, volume after it before the echoes', () => {
    const order = (id: string) => stagesOf(make(id).made.chain).map((s) => s.model)
    expect(order('volume-before').indexOf('trim')).toBe(order('volume-before').indexOf('drive.mid-hump') - 1)
    expect(order('volume-after').indexOf('trim')).toBe(order('volume-after').indexOf('delay.digital') - 1)
  })

  it('clean-up lifts a guitar that is turned down, and not one that is turned off', () => {
    const { at } = make('clean-up')
    const level = (p: number) => Number(at(p).out.params.level)
    expect([level(0), level(1)]).toEqual([0, 0])
    expect(level(0.3)).toBeGreaterThan(4)
    expect(Number(at(0.3).amp.params.treble)).toBeGreaterThan(Number(at(1).amp.params.treble))
  })

  it('a fade-out closes, falls and leaves the reverb', () => {
    const { at } = make('fade-out')
    expect(at(1).eq.params.highCut).toBeCloseTo(1_000, 6)
    expect(at(1).out.params.level).toBe(-24)
    expect(at(1).hall.params.mix).toBe(70)
    expect(at(0)).toEqual(resolveValues(pit, null))
  })

  it('go onto a source that is there when it fits, as one step, and say why they cannot', () => {
    const withPedal = applyEdit(pit, { type: 'addControl', control: createControl('p', 'pedal', 'Pedal') })
    const move = readyMoves[0]
    const { edit, control } = readyMoveEdit(move, { preset: withPedal, snapshot: null, newId: () => 'x' }, withPedal.controls?.[0] ?? null)
    expect(control).toBe('p')
    expect(applyEdit(withPedal, edit).controls).toHaveLength(1)
    const dry = applyEdit(pit, { type: 'removeStage', stage: 'delay' })
    expect(() => make('runaway', dry)).toThrow('There is no delay in the chain')
  })
})
