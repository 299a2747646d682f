import { beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { blankPreset } from '@fulgor/core/preset'
import type { Store } from './store'
import { answering } from './testing'

Object.assign(globalThis, { localStorage: { getItem: () => null, setItem: () => undefined, removeItem: () => undefined } })

/** What the server was asked, and a shelf that answers. */
const asked: string[] = []
let refuse = false
let shows: string[] = []
let total: number | null = null
answering((request) => {
  const path = new URL(request.url, 'http://localhost').pathname
  asked.push(`${request.method} ${path}`)
  if (refuse) return Promise.resolve(Response.json({ error: { message: 'The disk is full.' } }, { status: 507 }))
  if (request.method === 'DELETE') return Promise.resolve(new Response(null, { status: 204 }))
  if (path === '/api/shows') return Promise.resolve(Response.json({ items: shows.map((name) => ({ name })), total: total ?? shows.length }))
  return Promise.resolve(Response.json({ id: 'new', name: 'New' }))
})

let store: Store
let shelf: typeof import('./shelf')
beforeAll(async () => {
  store = (await import('./store')).store
  shelf = await import('./shelf')
})
beforeEach(() => {
  asked.length = 0
  refuse = false
})
const told = () => store.getState().notices.at(-1)?.text

describe('undo on the shelf', () => {
  it('puts what was added into the bin and takes what was removed out of it, and back again', async () => {
    await store.dispatch(shelf.addPreset(blankPreset('New')))
    await store.dispatch(shelf.binPreset('old', 'Old'))
    expect(told()).toBe('“Old” lies in the bin.')
    await store.dispatch(shelf.undoShelf())
    await store.dispatch(shelf.undoShelf())
    await store.dispatch(shelf.undoShelf())
    await store.dispatch(shelf.redoShelf())
    expect(asked.filter((a) => !a.startsWith('GET'))).toEqual([
      'POST /api/presets',
      'DELETE /api/presets/old',
      'POST /api/presets/old/restore',
      'DELETE /api/presets/new',
      'POST /api/presets/new/restore',
    ])
    expect([store.getState().shelf.past.length, store.getState().shelf.future.length]).toEqual([1, 1])
  })

  it('tells which shows play what goes', async () => {
    shows = ['The Salt Road']
    await store.dispatch(shelf.binPreset('b', 'B'))
    expect(told()).toBe('“B” lies in the bin. “The Salt Road” plays it: those parts are silent until it is back.')
    shows = ['One', 'Two', 'Three']
    total = 5
    await store.dispatch(shelf.binPreset('c', 'C'))
    expect(told()).toBe('“C” lies in the bin. “One”, “Two”, “Three” and 2 more play it: those parts are silent until it is back.')
    shows = []
    total = null
  })

  it('keeps the step, and says why, when the server refuses', async () => {
    await store.dispatch(shelf.binPreset('a', 'A'))
    const steps = store.getState().shelf.past.length
    refuse = true
    await store.dispatch(shelf.undoShelf())
    expect(told()).toBe('The disk is full.')
    expect(store.getState().shelf.past.length).toBe(steps)
  })
})
