import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import type { Stored, UpdateAnswer } from '@fulgor/core/api'
import { KitEditing, type KitSource } from './kitEditing'
import { fakeStorage } from './testing'

interface Thing {
  readonly name: string
}

/** What a request fails with. */
const failure = (what: object): Error => Object.assign(new Error('failed'), what)

/** A server with one thing on it. */
function server(start = 'one') {
  const state = { name: start, revision: 1, fails: null as Error | null, stored: [] as string[] }
  const source: KitSource<Thing> = {
    kind: 'thing',
    fetch: () =>
      state.fails === null
        ? Promise.resolve({ document: { name: state.name }, revision: state.revision } as unknown as Stored<Thing, unknown>)
        : Promise.reject(state.fails),
    store: (_, { document, baseRevision }) => {
      if (state.fails !== null) return Promise.reject(state.fails)
      if (baseRevision !== state.revision) return Promise.reject(Object.assign(new Error('409'), { status: 409 }))
      state.name = document.name
      state.revision++
      state.stored.push(document.name)
      return Promise.resolve({ id: 'x', revision: state.revision, updatedAt: 0, version: 1 } as UpdateAnswer)
    },
    read: (value) => value as Thing,
  }
  return { state, source }
}

let kept: Map<string, string>
beforeEach(() => {
  kept = fakeStorage()
  vi.useFakeTimers()
})
// files share a thread: the next one waits for real time
afterEach(() => vi.useRealTimers())
const soon = () => vi.advanceTimersByTimeAsync(700)
async function opened(source: KitSource<Thing>) {
  const editing = new KitEditing('x', source)
  await editing.open()
  return editing
}

it('stores what is edited once the hand is still, and only the last of it', async () => {
  const { state, source } = server()
  const editing = await opened(source)
  editing.change({ name: 'two' }, 'name')
  editing.change({ name: 'three' }, 'name')
  expect(editing.standing.sync).toBe('saving')
  await soon()
  expect(state.stored).toEqual(['three'])
  expect(editing.standing.sync).toBe('saved')
})

it('takes quick edits of one thing as one step, and undoes and redoes them', async () => {
  const { source } = server()
  const editing = await opened(source)
  editing.change({ name: 'two' }, 'name')
  editing.change({ name: 'three' }, 'name')
  editing.change({ name: 'four' }, '')
  editing.undo()
  expect(editing.present).toEqual({ name: 'three' })
  editing.undo()
  expect(editing.present).toEqual({ name: 'one' })
  editing.undo()
  editing.redo()
  expect(editing.present).toEqual({ name: 'three' })
  editing.change({ name: 'other' }, '')
  expect(editing.future).toEqual([])
})

it('keeps in this browser what the server does not take, sends it later, and finds it after a reload', async () => {
  const { state, source } = server()
  const editing = await opened(source)
  state.fails = failure({ status: 'FETCH_ERROR' })
  editing.change({ name: 'two' }, '')
  await soon()
  expect(editing.standing).toMatchObject({ sync: 'kept', elsewhere: false })
  expect([...kept.keys()]).toEqual(['fulgor.kit.thing.x'])
  state.fails = null
  const again = await opened(source)
  expect(again.present).toEqual({ name: 'two' })
  await soon()
  expect(state.name).toBe('two')
  expect(kept.size).toBe(0)
})

it('overwrites nothing that was changed elsewhere, and settles either way', async () => {
  const { state, source } = server()
  const editing = await opened(source)
  state.revision = 5
  state.name = 'theirs'
  editing.change({ name: 'mine' }, '')
  await soon()
  expect(editing.standing).toMatchObject({ sync: 'kept', elsewhere: true })
  expect([state.name, editing.present?.name]).toEqual(['theirs', 'mine'])
  await editing.settle(true)
  await soon()
  expect(state.name).toBe('mine')

  state.revision = 9
  state.name = 'theirs again'
  editing.change({ name: 'mine again' }, '')
  await soon()
  await editing.settle(false)
  expect(editing.present).toEqual({ name: 'theirs again' })
  expect(editing.standing).toMatchObject({ sync: 'saved', problem: null })
})

it('says so where there is no such thing', async () => {
  const { state, source } = server()
  state.fails = failure({ status: 404, data: { error: { message: 'Guitar “x” is not there.' } } })
  const editing = await opened(source)
  expect(editing.missing).toBe('Guitar “x” is not there.')
})
