import { beforeAll, beforeEach, describe, expect, it } from 'vitest'
import type { StoredPreset } from '@fulgor/core/api'
import { demoPresets } from '@fulgor/core/demo'
import { findStage, resolveStage, type Preset } from '@fulgor/core/preset'
import type { Store } from './store'
import { rangeChosen } from './cellsSlice'

Object.assign(globalThis, { localStorage: { getItem: () => null, setItem: () => undefined, removeItem: () => undefined } })

let store: Store
let editor: typeof import('./editor')
let actions: typeof import('./actions')
let cells: typeof import('./cells')
beforeAll(async () => {
  store = (await import('./store')).store
  editor = await import('./editor')
  actions = await import('./actions')
  cells = await import('./cells')
})

const pit = demoPresets[0].preset
let opened = 0
const open = (document: Preset) => {
  const stored = { id: `r${++opened}`, revision: 1, updatedAt: 1, document, saved: null } as unknown as StoredPreset
  store.dispatch(editor.opened({ stored, pending: null, snapshot: 'storm' }))
}
const present = (): Preset => actions.presentPreset(store.getState()) ?? pit
const value = (stage: string, snapshot: string, param: string) => {
  const node = findStage(present(), stage)
  return node && resolveStage(present(), node, snapshot).params[param]
}
const choose = (from: readonly [string, string], to: readonly [string, string]) =>
  store.dispatch(rangeChosen({ from: { stage: from[0], snapshot: from[1] }, to: { stage: to[0], snapshot: to[1] } }))
const told = () => store.getState().notices.at(-1)?.text ?? ''

beforeEach(() => {
  open(pit)
  store.dispatch(rangeChosen(null))
})

describe('a range', () => {
  it('lies between two corners, whichever was first, and is none when one is gone', () => {
    const a = { stage: 'eq', snapshot: 'lullaby' }
    const b = { stage: 'drive', snapshot: 'strum' }
    const between = { stages: ['drive', 'amp', 'cab', 'eq'], snapshots: ['strum', 'storm', 'lullaby'] }
    expect(cells.between(pit, { from: a, to: b })).toEqual(between)
    expect(cells.between(pit, { from: b, to: a })).toEqual(between)
    expect(cells.between(pit, { from: a, to: { stage: 'gone', snapshot: 'strum' } })).toBeNull()
    expect(cells.between(pit, null)).toBeNull()
  })

  it('is filled, swapped, reset and made the base, each in one step of undo', () => {
    const range = { stages: ['amp', 'delay'], snapshots: ['storm', 'chase', 'finale'] }
    for (const [edit, check] of [
      [cells.rangeEdits.fill(range), () => expect([value('amp', 'chase', 'gain'), value('amp', 'finale', 'gain')]).toEqual([6.2, 6.2])],
      [cells.rangeEdits.swap(range), () => expect([value('amp', 'storm', 'gain'), value('amp', 'chase', 'gain')]).toEqual([5.4, 6.2])],
      [cells.rangeEdits.reset(range), () => expect([value('amp', 'storm', 'gain'), value('delay', 'storm', 'mix')]).toEqual([4, 14])],
      [cells.rangeEdits.toBase(range), () => expect(findStage(present(), 'amp')?.params.gain).toBe(6.2)],
    ] as const) {
      store.dispatch(actions.edit(edit))
      check()
      store.dispatch(editor.undone())
      expect(present()).toEqual(pit)
    }
  })
})

describe('copy and paste', () => {
  it('goes from one snapshot to another, and as text into another preset', () => {
    choose(['amp', 'storm'], ['amp', 'storm'])
    const text = store.dispatch(cells.copy())
    choose(['amp', 'lullaby'], ['amp', 'finale'])
    store.dispatch(cells.paste(null))
    expect(['lullaby', 'chase', 'finale'].map((s) => value('amp', s, 'gain'))).toEqual([6.2, 6.2, 6.2])
    expect(value('amp', 'overture', 'gain')).toBe(3.2)
    open(demoPresets[1].preset)
    choose(['amp', 'answer'], ['amp', 'answer'])
    store.dispatch(cells.paste(text))
    expect(value('amp', 'answer', 'gain')).toBe(6.2)
  })

  it('takes the whole width when one cell is chosen', () => {
    choose(['hall', 'overture'], ['hall', 'strum'])
    store.dispatch(cells.copy())
    choose(['hall', 'chase'], ['hall', 'chase'])
    store.dispatch(cells.paste(null))
    expect([value('hall', 'chase', 'mix'), value('hall', 'finale', 'mix')]).toEqual([20, 8])
  })

  it('says why it cannot', () => {
    choose(['amp', 'storm'], ['amp', 'storm'])
    store.dispatch(cells.paste('{"not": "cells"}'))
    expect(told().length).toBeGreaterThan(10)
    expect(present()).toBe(pit)
    store.dispatch(rangeChosen(null))
    store.dispatch(editor.stageChosen({ stage: 'amp' }))
    const text = store.dispatch(cells.copy({ stages: ['amp'], snapshots: ['storm'] }))
    store.dispatch(cells.paste(text))
    expect(told()).toBe('Paste goes onto snapshots: choose a cell of one, not the row.')
    // a drive has no place below the hall
    const drive = store.dispatch(cells.copy({ stages: ['drive'], snapshots: ['storm'] }))
    choose(['hall', 'chase'], ['hall', 'chase'])
    store.dispatch(cells.paste(drive))
    expect(told()).toContain('From this row on there is no Mid-hump drive')
  })
})
