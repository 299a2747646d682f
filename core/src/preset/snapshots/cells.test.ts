import { describe, expect, it } from 'vitest'
import {
  applyEdit,
  blankPreset,
  copyCells,
  pastePlaces,
  presetSchema,
  readCells,
  readPreset,
  resolveStage,
  stagesOf,
  type Preset,
} from '..'

/** Amp, cabinet and output; “lead” differs from the base in two values and a switch. */
function twoSnapshots(): Preset {
  let preset = blankPreset('Cells')
  preset = applyEdit(preset, { type: 'addSnapshot', snapshot: 'lead', name: 'Lead' })
  preset = applyEdit(preset, { type: 'setParam', stage: 'amp', snapshot: 'lead', param: 'gain', value: 8 })
  preset = applyEdit(preset, { type: 'setParam', stage: 'amp', snapshot: 'lead', param: 'bass', value: 3 })
  return applyEdit(preset, { type: 'setOn', stage: 'cab', snapshot: 'lead', on: false })
}

const heard = (preset: Preset, snapshot: string | null) => stagesOf(preset.chain).map((stage) => resolveStage(preset, stage, snapshot))

describe('a block of cells', () => {
  it('sounds the same where it is pasted, also over another base', () => {
    const from = twoSnapshots()
    let to = applyEdit(blankPreset('Other'), { type: 'setParam', stage: 'amp', snapshot: null, param: 'gain', value: 2 })
    to = applyEdit(to, { type: 'addSnapshot', snapshot: 'b', name: 'B' })
    const block = copyCells(from, ['amp', 'cab', 'out'], ['lead'])
    to = applyEdit(to, { type: 'pasteCells', block, stage: 'amp', snapshots: ['b'] })
    expect(heard(to, 'b')).toEqual(heard(from, 'lead'))
    expect(resolveStage(to, stagesOf(to.chain)[0], 's1').params.gain).toBe(2)
  })

  it('goes through the clipboard as text', () => {
    const block = copyCells(twoSnapshots(), ['amp', 'cab'], ['s1', 'lead'])
    expect(readCells(JSON.stringify(block))).toEqual(block)
  })

  it.each([
    ['chords and a rhyme', 'no block of cells'],
    ['{"format":"fulgor.cells","rows":[]}', 'no row'],
    ['{"format":"fulgor.cells","rows":[{"model":"amp.none","cells":[]}]}', 'rows[0].model'],
    ['{"format":"fulgor.cells","rows":[{"model":"output","cells":[{"on":1,"params":{}}]}]}', 'rows[0].cells[0].on'],
    ['{"format":"fulgor.cells","rows":[{"model":"output","cells":[{"on":true,"params":{"level":900}}]}]}', 'Level runs from'],
  ])('that is none is refused with the place: %s', (text, reason) => {
    expect(() => readCells(text)).toThrow(reason)
  })

  it('finds the next stage of the same model for each row', () => {
    const preset = applyEdit(twoSnapshots(), { type: 'addStage', stage: 'eq', model: 'eq.parametric', lane: null, index: 1 })
    const block = copyCells(preset, ['amp', 'eq', 'out'], ['lead'])
    const without = applyEdit(preset, { type: 'removeStage', stage: 'eq' })
    expect(pastePlaces(without, block, 'amp').map((p) => p?.id ?? null)).toEqual(['amp', null, 'out'])
    expect(() => pastePlaces(without, copyCells(preset, ['eq'], ['lead']), 'amp')).toThrow('no Parametric EQ')
  })
})

it('fills across, swaps and resets as one step each', () => {
  let preset = applyEdit(twoSnapshots(), { type: 'addSnapshot', snapshot: 'third', name: 'Third' })
  preset = applyEdit(preset, { type: 'fillCells', stages: ['amp'], from: 'lead', to: ['s1', 'third'] })
  expect(heard(preset, 'third')[0]).toEqual(heard(preset, 'lead')[0])
  expect(heard(preset, 'third')[1].on).toBe(true)
  const [one, two] = [heard(preset, 'lead'), heard(preset, 'third')]
  const swapped = applyEdit(preset, { type: 'swapCells', stages: ['amp', 'cab', 'out'], a: 'lead', b: 'third' })
  expect([heard(swapped, 'third'), heard(swapped, 'lead')]).toEqual([one, two])
})

it('a snapshot knows what it has grown from, through removal and file', () => {
  let preset = applyEdit(twoSnapshots(), { type: 'duplicateSnapshot', source: 'lead', snapshot: 'solo', name: 'Solo' })
  preset = applyEdit(preset, { type: 'duplicateSnapshot', source: 'solo', snapshot: 'end', name: 'End' })
  expect(preset.snapshots.map((s) => s.parent)).toEqual([undefined, undefined, 'lead', 'solo'])
  expect(readPreset(JSON.parse(JSON.stringify(preset)))).toEqual(preset)
  const without = applyEdit(preset, { type: 'removeSnapshot', snapshot: 'solo' })
  expect(without.snapshots.map((s) => s.parent)).toEqual([undefined, undefined, 'lead'])
  const astray = { ...preset, snapshots: preset.snapshots.map((s) => (s.id === 'end' ? { ...s, parent: 'end' } : s)) }
  expect(() => readPreset(astray)).toThrow('snapshots[3].parent')
  expect(JSON.stringify(presetSchema())).toContain('parent')
})
