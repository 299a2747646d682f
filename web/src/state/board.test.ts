import { afterEach, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest'
import type { StoredPreset } from '@fulgor/core/api'
import { demoPresets } from '@fulgor/core/demo'
import {
  capacityOf,
  createSwitch,
  createTarget,
  deviceOf,
  EMPTY_BOARD,
  findStage,
  resolveStage,
  type BoardSwitch,
  type Preset,
} from '@fulgor/core/preset'
import type { Store } from './store'
import { learningChosen } from './controlsSlice'

Object.assign(globalThis, { localStorage: { getItem: () => null, setItem: () => undefined, removeItem: () => undefined } })

let store: Store
let editor: typeof import('./editor')
let actions: typeof import('./actions')
let controls: typeof import('./controls')
let board: typeof import('./board')
let midi: typeof import('./midi')
beforeAll(async () => {
  const { listen, ...made } = (await import('./store')).createStore()
  store = made.store
  editor = await import('./editor')
  actions = await import('./actions')
  controls = await import('./controls')
  board = await import('./board')
  midi = await import('./midi')
  controls.startControls(listen)
  board.startBoard(listen)
})

const at = (id: string) => ({ page: 'singles' as const, bank: 0, index: Number(id) })

const own = (id: string, what: Partial<BoardSwitch>): BoardSwitch => ({
  ...createSwitch(id, at(id)),
  ...what,
})

/** The pit with a board of its own, opened as another preset each time. */
let opened = 0
function open(...switches: readonly BoardSwitch[]): Preset {
  const document: Preset = { ...demoPresets[0].preset, board: { ...EMPTY_BOARD, start: 'singles', switches } }
  const stored = { id: `p${++opened}`, name: document.name, revision: 1, updatedAt: 1, document, saved: null } as unknown as StoredPreset
  store.dispatch(editor.opened({ stored, pending: null, snapshot: 'storm' }))
  return document
}
const device = ({ device: own }: Preset, both: boolean) => ({ ...deviceOf(own), capacity: { ...capacityOf(own), both } })
const present = (): Preset => actions.presentPreset(store.getState()) as Preset
const press = (id: string, ms = 50) => {
  store.dispatch(board.footMoved(at(id), true, performance.now()))
  vi.advanceTimersByTime(ms)
  store.dispatch(board.footMoved(at(id), false, performance.now()))
}
const state = () => store.getState()
const lit = (fn: BoardSwitch['press']) => fn !== null && board.isLit(state(), present(), fn)
const acting = () => Object.keys(controls.actingPositions(state(), present()))

beforeEach(() => vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'performance'] }))
afterEach(() => vi.useRealTimers())

describe('a board that is played', () => {
  it('shows the face that the preset begins with, and goes round its banks', () => {
    open(own('0', { press: { do: 'bank', by: 1 } }), own('1', { press: { do: 'page' } }))
    expect([state().board.page, state().board.bank]).toEqual(['singles', 0])
    press('0')
    expect(state().board.bank).toBe(1)
    press('0')
    expect(state().board.bank).toBe(0)
    press('1')
    expect(state().board.page).toBe('snapshots')
  })

  it('switches stages over until a snapshot is loaded, also the one that is lit, and keeps them by one edit', () => {
    const stages = { do: 'stages', stages: ['drive', 'delay'], how: 'each' } as const
    open(own('0', { press: stages }), own('1', { press: { do: 'snapshot', snapshot: 'storm' } }))
    press('0')
    expect(state().board.toggled).toEqual({ drive: false, delay: false })
    expect(lit(stages)).toBe(false)
    press('1')
    expect(state().board.toggled).toEqual({})
    expect(lit({ do: 'snapshot', snapshot: 'storm' })).toBe(true)
    press('0')
    store.dispatch(board.keepToggled())
    const stage = findStage(present(), 'drive')
    expect(stage && resolveStage(present(), stage, 'storm').on).toBe(false)
    expect(state().board.toggled).toEqual({})
    store.dispatch(editor.undone())
    expect(stage && resolveStage(present(), stage, 'storm').on).toBe(true)
    press('0')
    store.dispatch(editor.snapshotChosen('finale'))
    expect(state().board.toggled).toEqual({})
  })

  it('holds by the clock, and knows a double press', () => {
    open(own('0', { press: { do: 'snapshot', snapshot: 'finale' }, hold: { do: 'tuner' }, double: { do: 'page' } }))
    store.dispatch(board.footMoved(at('0'), true, performance.now()))
    vi.advanceTimersByTime(399)
    expect(state().board.tuner).toBe(false)
    vi.advanceTimersByTime(2)
    expect(state().board.tuner).toBe(true)
    expect(state().board.down).toEqual(['0'])
    store.dispatch(board.footMoved(at('0'), false, performance.now()))
    expect(state().board.down).toEqual([])
    press('0')
    press('0')
    vi.advanceTimersByTime(1_000)
    expect(state().board.page).toBe('snapshots')
    expect(state().editor.snapshot).toBe('storm')
    press('0')
    expect(state().editor.snapshot).toBe('storm')
    vi.advanceTimersByTime(300)
    expect(state().editor.snapshot).toBe('finale')
  })

  it('two switches at once do what neither does alone, whichever foot is first; pressed apart they do their own', () => {
    const pair = [own('0', { press: { do: 'snapshot', snapshot: 'finale' }, both: { do: 'tuner' } }), own('1', { press: { do: 'page' } })]
    const both = open(...pair)
    // the device has to know it
    store.dispatch(actions.edit({ type: 'setDevice', device: device(both, true) }))
    const together = (first: string, second: string, apart: number) => {
      store.dispatch(board.footMoved(at(first), true, performance.now()))
      vi.advanceTimersByTime(apart)
      store.dispatch(board.footMoved(at(second), true, performance.now()))
      vi.advanceTimersByTime(100)
      store.dispatch(board.footMoved(at(first), false, performance.now()))
      store.dispatch(board.footMoved(at(second), false, performance.now()))
    }
    together('0', '1', 30)
    expect([state().board.tuner, state().board.page, state().editor.snapshot]).toEqual([true, 'singles', 'storm'])
    together('1', '0', 30)
    expect([state().board.tuner, state().board.page, state().board.down]).toEqual([false, 'singles', []])
    together('0', '1', 80)
    expect([state().board.tuner, state().board.page, state().editor.snapshot]).toEqual([false, 'snapshots', 'finale'])
    const alone = open(...pair)
    store.dispatch(actions.edit({ type: 'setDevice', device: device(alone, false) }))
    together('0', '1', 30)
    expect([state().board.tuner, state().board.page]).toEqual([false, 'snapshots'])
  })

  it('moves a momentary source while it is down, and others there and back', () => {
    open(own('0', { press: { do: 'source', control: 'throw' } }), own('1', { press: { do: 'source', control: 'pedal2' } }))
    const position = (id: string) =>
      controls.positionIn(state(), present().controls?.find((c) => c.id === id) ?? (demoPresets[0].preset.controls?.[0] as never))
    store.dispatch(board.footMoved(at('0'), true, 0))
    expect(position('throw')).toBe(1)
    store.dispatch(board.footMoved(at('0'), false, 10))
    expect(position('throw')).toBe(0)
    expect(position('pedal2')).toBe(1)
    press('1')
    expect(position('pedal2')).toBe(0)
    press('1')
    expect(position('pedal2')).toBe(1)
  })

  it('lets go of a pedal, or exchanges two', () => {
    const one = { do: 'pedals', controls: ['pedal2'] } as const
    const two = { do: 'pedals', controls: ['pedal2', 'throw'] } as const
    open(own('0', { press: one }))
    expect(acting()).toContain('pedal2')
    press('0')
    expect(acting()).not.toContain('pedal2')
    expect(lit(one)).toBe(false)
    // moved it stays let go
    const pedal = present().controls?.[1]
    if (pedal) store.dispatch(controls.moveControl(pedal, 0.4))
    expect(acting()).not.toContain('pedal2')
    press('0')
    expect(acting()).toContain('pedal2')
    open(own('0', { press: two }))
    expect(acting()).toContain('pedal2')
    expect(acting()).not.toContain('throw')
    press('0')
    expect(acting()).not.toContain('pedal2')
    expect(acting()).toContain('throw')
    // a snapshot begins with the first again
    store.dispatch(controls.loadSnapshot('storm'))
    expect(acting()).toContain('pedal2')
    expect(acting()).not.toContain('throw')
  })

  it('taps the tempo by the moment of each press', () => {
    open(own('0', { press: { do: 'tap' } }))
    for (let i = 0; i < 5; i++) press('0', 600)
    // a quarter every 600 ms: 100 a minute
    expect(present().tempo).toBe(100)
    vi.advanceTimersByTime(3_000)
    // slow ones are one step of undo as well
    for (let i = 0; i < 4; i++) press('0', 1_500)
    expect(present().tempo).toBe(40)
    store.dispatch(editor.undone())
    expect(present().tempo).toBe(100)
  })

  it('asks for the preset beside it', () => {
    open(own('0', { press: { do: 'preset', by: -1 } }))
    press('0')
    expect(state().board.presetStep).toBe(-1)
  })

  it('does nothing for a switch that is gone, and ends what was begun on one that is changed', () => {
    open(own('0', { press: { do: 'source', control: 'throw' } }))
    press('7')
    store.dispatch(board.footMoved(at('0'), true, 0))
    store.dispatch(actions.edit({ type: 'changeSwitch', id: '0', change: { label: 'Throw' } }))
    store.dispatch(board.footMoved(at('0'), false, 20))
    expect(controls.actingPositions(state(), present())).toMatchObject({ throw: 0 })
  })
})

describe('messages from a foot', () => {
  const send = (type: 'cc' | 'note' | 'program', number: number, value = 0, channel = 1) =>
    store.dispatch(midi.midiReceived({ type, channel, number, value }, performance.now()))

  it('press a switch, load a snapshot and move a source', () => {
    open(own('0', { press: { do: 'stages', stages: ['delay'], how: 'each' }, midi: { type: 'cc', channel: 1, number: 20 } }))
    send('cc', 20, 127)
    expect(state().board.down).toEqual(['0'])
    expect(state().board.toggled).toEqual({ delay: false })
    send('cc', 20, 0)
    expect(state().board.down).toEqual([])
    send('cc', 80, 3)
    expect(state().editor.snapshot).toBe('lullaby')
    send('cc', 80, 9)
    expect(state().editor.snapshot).toBe('lullaby')
    send('cc', 4, 64)
    expect(state().controls.positions.pedal2).toBeCloseTo(64 / 127, 9)
  })

  it('are learnt by a switch or a source, and undone', () => {
    open(own('0', { press: { do: 'tap' } }))
    store.dispatch(learningChosen('0'))
    send('program', 3)
    send('note', 40, 0, 2)
    expect(state().controls.learning).toBe('0')
    send('note', 40, 100, 2)
    expect(present().board?.switches[0].midi).toEqual({ type: 'note', channel: 2, number: 40 })
    store.dispatch(editor.undone())
    expect(present().board?.switches[0].midi).toBeNull()
    store.dispatch(learningChosen('throw'))
    send('cc', 66, 5)
    expect(present().controls?.[2].midi).toEqual({ type: 'cc', channel: 1, number: 66 })
  })
})

it('a source that was added has a place of its own', () => {
  open()
  const control = { ...demoPresets[0].preset.controls?.[1], id: 'new', targets: [createTarget('t9', 'hall', 'mix', 0, 50)] }
  store.dispatch(actions.edit({ type: 'addControl', control: control as never }))
  expect(acting()).toContain('new')
})
