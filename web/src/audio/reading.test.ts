import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { demoPresets } from '@fulgor/core/demo'
import { Crew } from '../background/crew'
import { threadOf } from '../background/serve'
import { edit } from '../state/actions'
import { opened } from '../state/editor'
import { measuringStarted, timed } from '../state/measures'
import { createStore } from '../state/store'
import { fakeStorage, storedPreset } from '../state/testing'
import { startReading } from './reading'

fakeStorage()
// Node has no page's events
vi.stubGlobal('addEventListener', () => undefined)

const pit = demoPresets[0].preset

describe('what the rules of values are applied to', () => {
  let store: ReturnType<typeof createStore>['store']
  beforeEach(() => {
    vi.useFakeTimers()
    const made = createStore()
    store = made.store
    startReading(made.listen, new Crew(() => threadOf({}), 1))
  })
  afterEach(() => void vi.useRealTimers())
  const pass = (ms: number) => vi.advanceTimersByTimeAsync(ms)
  const present = () => store.getState().editor.history?.present
  const rested = () => store.getState().readings.rested
  const tempo = (value: number) => {
    store.dispatch(edit({ type: 'setTempo', tempo: value }))
    store.dispatch(measuringStarted(pit.snapshots.map((s) => s.id)))
  }

  it('is the preset that was opened at once, and an edited one when the hand rests and its figures stand', async () => {
    store.dispatch(opened({ stored: storedPreset(pit), pending: null, snapshot: null }))
    await pass(0)
    const before = present()
    expect(rested()).toBe(before)
    tempo(100)
    await pass(200)
    expect(rested()).toBe(before)
    store.dispatch(timed({ allMs: 200 }))
    await pass(0)
    expect(rested()).toBe(present())
  })

  it('waits for a hand that goes on, and for figures that never come a second and a half', async () => {
    store.dispatch(opened({ stored: storedPreset(pit), pending: null, snapshot: null }))
    await pass(0)
    const before = present()
    tempo(100)
    store.dispatch(timed({ allMs: 5 }))
    await pass(100)
    tempo(101)
    await pass(100)
    expect(rested()).toBe(before)
    await pass(1_700)
    expect(rested()).toBe(present())
  })
})
