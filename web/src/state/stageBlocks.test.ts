import { beforeAll, beforeEach, describe, expect, it } from 'vitest'
import type { StoredPreset } from '@fulgor/core/api'
import { demoPresets } from '@fulgor/core/demo'
import { findStage, resolveStage, rowsOf, type Preset } from '@fulgor/core/preset'
import type { Store } from './store'
import { rangeChosen } from './cellsSlice'

Object.assign(globalThis, { localStorage: { getItem: () => null, setItem: () => undefined, removeItem: () => undefined } })

let store: Store
let editor: typeof import('./editor')
let actions: typeof import('./actions')
let cells: typeof import('./cells')
let blocks: typeof import('./stageBlocks')
beforeAll(async () => {
  store = (await import('./store')).store
  editor = await import('./editor')
  actions = await import('./actions')
  cells = await import('./cells')
  blocks = await import('./stageBlocks')
})

const pit = demoPresets[0].preset
let opened = 0
const open = (document: Preset) => {
  const stored = { id: `b${++opened}`, revision: 1, updatedAt: 1, document, saved: null } as unknown as StoredPreset
  store.dispatch(editor.opened({ stored, pending: null, snapshot: 'storm' }))
}
const present = (): Preset => actions.presentPreset(store.getState()) ?? pit
const models = () => rowsOf(present().chain).map((row) => (row.kind === 'stage' ? row.stage.model : row.kind))
const rows = () => rowsOf(present().chain).map((row) => row.id)
const whole = (from: string, to: string) =>
  store.dispatch(rangeChosen({ from: { stage: from, snapshot: null }, to: { stage: to, snapshot: null } }))

beforeEach(() => {
  open(pit)
  store.dispatch(rangeChosen(null))
})

describe('whole rows', () => {
  it('are copied and pasted behind the chosen one, in one step of undo, with what snapshots change', () => {
    whole('amp', 'cab')
    const text = store.dispatch(cells.copy())
    store.dispatch(editor.stageChosen({ stage: 'hall' }))
    store.dispatch(rangeChosen(null))
    const before = models()
    store.dispatch(cells.paste(text))
    const at = rows().indexOf('hall') + 1
    expect(models()).toEqual([...before.slice(0, at), 'amp.lantern', 'cabinet', ...before.slice(at)])
    const amp = findStage(present(), rows()[at])
    expect(store.getState().editor.stage).toBe(amp?.id)
    expect(amp && resolveStage(present(), amp, 'storm').params.gain).toBe(6.2)
    store.dispatch(editor.undone())
    expect(models()).toEqual(before)
  })

  it('become values where they are pasted onto a snapshot', () => {
    store.dispatch(editor.stageChosen({ stage: 'amp' }))
    const text = store.dispatch(cells.copy())
    store.dispatch(editor.stageChosen({ stage: 'amp', snapshot: 'storm' }))
    store.dispatch(cells.paste(text))
    const amp = findStage(present(), 'amp')
    expect(amp && resolveStage(present(), amp, 'storm').params.gain).toBe(4)
  })

  it('move together, are switched together and removed together', () => {
    const before = rows()
    const stages = [before[1], before[2]]
    store.dispatch(blocks.stepStages(stages, 1))
    expect(rows().slice(0, 4)).toEqual([before[0], before[3], before[1], before[2]])
    store.dispatch(blocks.stepStages(stages, -1))
    expect(rows()).toEqual(before)
    store.dispatch(blocks.bypassStages(stages))
    const on = () => stages.map((id) => resolveStage(present(), findStage(present(), id) ?? (pit.chain[0] as never), 'storm').on)
    expect(on()).toEqual([false, false])
    store.dispatch(blocks.bypassStages(stages))
    expect(on()).toEqual([true, true])
    store.dispatch(blocks.removeStages(stages))
    expect(rows()).toEqual(before.filter((id) => !stages.includes(id)))
    // the row behind them is chosen; at the end the one before
    expect(store.getState().editor.stage).toBe(before[3])
    store.dispatch(blocks.removeStages([rows().at(-1) ?? '']))
    expect(store.getState().editor.stage).toBe(rows().at(-1))
  })

  it('are duplicated behind the last of them', () => {
    const before = models()
    store.dispatch(blocks.duplicateStages([rows()[0], rows()[1]]))
    expect(models().slice(0, 4)).toEqual([before[0], before[1], before[0], before[1]])
  })

  it('are dropped where the one that is dragged lands', () => {
    const [a, b, c, d] = rows()
    const place = { lane: null, index: 2 }
    // a and b dragged by b onto the place behind c
    store.dispatch(actions.edit(blocks.moveTogether(present(), [a, b], b, place)))
    expect(rows().slice(0, 4)).toEqual([c, a, b, d])
  })

  it('of a lane come back as a lane beside the row', () => {
    const [first, second] = rows()
    store.dispatch(actions.edit({ type: 'split', stage: second, split: 'sp', lanes: ['l1', 'l2'] }))
    store.dispatch(editor.stageChosen({ stage: 'l1' }))
    const text = store.dispatch(cells.copy())
    store.dispatch(cells.paste(text))
    expect(rowsOf(present().chain).filter((row) => row.kind === 'lane').length).toBe(3)
    // beside a stage of the main row it makes a split of its own
    store.dispatch(editor.stageChosen({ stage: first }))
    store.dispatch(cells.paste(text))
    expect(models().slice(0, 4)).toEqual(['lane', 'gate', 'lane', findStage(present(), second)?.model])
  })
})
