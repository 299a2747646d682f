import { beforeAll, beforeEach, describe, expect, it } from 'vitest'
import type { StoredPreset } from '@fulgor/core/api'
import { demoPresets } from '@fulgor/core/demo'
import { createControl, LINEAR, type Control, type ControlTarget, type OnSnapshot, type Preset } from '@fulgor/core/preset'
import type { Store } from './store'

Object.assign(globalThis, { localStorage: { getItem: () => null, setItem: () => undefined, removeItem: () => undefined } })

let store: Store
let editor: typeof import('./editor')
let controls: typeof import('./controls')
beforeAll(async () => {
  const { listen, ...made } = (await import('./store')).createStore()
  store = made.store
  editor = await import('./editor')
  controls = await import('./controls')
  controls.startControls(listen)
})

/** Storm lead stores a delay mix of 24 %, the base 14 %. */
const mix: ControlTarget = { id: 't', stage: 'delay', param: 'mix', from: 0, to: 40, curve: LINEAR, snapshots: null }
let opened = 0
function open(onSnapshot: OnSnapshot, targets: readonly ControlTarget[] = [mix]): Control {
  const control: Control = { ...createControl('c', 'pedal', 'Pedal'), onSnapshot, targets }
  const document: Preset = { ...demoPresets[0].preset, controls: [control], board: undefined }
  const stored = { id: `q${++opened}`, revision: 1, updatedAt: 1, document, saved: null } as unknown as StoredPreset
  store.dispatch(editor.opened({ stored, pending: null, snapshot: 'storm' }))
  return control
}
const acts = (): boolean => {
  const { history } = store.getState().editor
  return history !== null && 'c' in controls.actingPositions(store.getState(), history.present)
}
let control: Control
const move = (...positions: readonly number[]) => {
  for (const position of positions) store.dispatch(controls.moveControl(control, position))
}

describe('a source when a snapshot is loaded', () => {
  it('jumps: it acts from the first sound on, from where it rests', () => {
    control = open('jump')
    expect(acts()).toBe(true)
    expect(controls.positionIn(store.getState(), control)).toBe(0)
  })

  it('is kept: the snapshot is as stored until it is moved at all', () => {
    control = open('keep')
    expect(acts()).toBe(false)
    move(0.1)
    expect(acts()).toBe(true)
    store.dispatch(editor.snapshotChosen('finale'))
    expect(acts()).toBe(false)
    expect(controls.positionIn(store.getState(), control)).toBe(0.1)
  })

  it('stays inside its travel', () => {
    control = open('jump')
    move(1.7)
    expect(controls.positionIn(store.getState(), control)).toBe(1)
    move(-3)
    expect(controls.positionIn(store.getState(), control)).toBe(0)
  })
})

describe('pickup', () => {
  // 24 of 0 to 40 % is at 0.6
  beforeEach(() => (control = open('pickup')))

  it('begins where the travel passes what is stored, from below and from above', () => {
    move(0.3, 0.5)
    expect(acts()).toBe(false)
    move(0.7)
    expect(acts()).toBe(true)
    control = open('pickup')
    move(0.59)
    expect(acts()).toBe(true)
  })

  it('begins by a jump over it, and goes on wherever it is moved then', () => {
    move(0.2, 0.9)
    expect(acts()).toBe(true)
    move(0.1)
    expect(acts()).toBe(true)
  })

  it('begins anew with every snapshot, and once more from where the foot is', () => {
    move(0.2, 0.9)
    store.dispatch(editor.snapshotChosen('lullaby'))
    // 18 % is at 0.45
    expect(acts()).toBe(false)
    move(0.8, 0.5)
    expect(acts()).toBe(false)
    move(0.4)
    expect(acts()).toBe(true)
    store.dispatch(controls.loadSnapshot('lullaby'))
    expect(acts()).toBe(false)
  })

  it('does not wait for what it cannot meet', () => {
    control = open('pickup', [{ ...mix, to: 10 }])
    move(0.1)
    expect(acts()).toBe(true)
    control = open('pickup', [{ ...mix, param: 'on', from: 0, to: 1 }])
    move(0.1)
    expect(acts()).toBe(true)
  })

  it('goes by the first number that is live in the snapshot', () => {
    const first: ControlTarget = { ...mix, id: 'u', snapshots: ['finale'], to: 20 }
    const own = open('pickup', [first, mix])
    const { history } = store.getState().editor
    if (!history) throw new Error('nothing is open')
    expect(controls.storedPosition(history.present, own, 'storm')).toBeCloseTo(0.6, 6)
    // in Finale the first is live, too: 14 of 0 to 20 %
    expect(controls.storedPosition(history.present, own, 'finale')).toBeCloseTo(0.7, 6)
    expect(controls.storedPosition(history.present, { ...own, targets: [] }, 'storm')).toBeNull()
  })
})
