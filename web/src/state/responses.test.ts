import { expect, it, vi } from 'vitest'
import type { ResponseAsset } from '@fulgor/core/api'
import { answering, fakeStorage } from './testing'

fakeStorage()

/** A server whose answers to a list are sent when the test says so. */
const waiting: (() => void)[] = []
const stored = { hash: 'a', name: 'Ribbon', favourite: false, tags: ['ribbon'] }

answering((request) => {
  if (request.method === 'PATCH') {
    stored.tags = ['ribbon', 'warm']
    return Promise.resolve(new Response(null, { status: 204 }))
  }
  const asItWas = structuredClone([stored])
  return new Promise((answer) => waiting.push(() => answer(Response.json(asItWas))))
})

it('does not let an older list take a tag back', async () => {
  const { createStore } = await import('./store')
  const { api } = await import('../api/api')
  const { store } = createStore()
  const tags = () => (api.endpoints.responses.select(undefined)(store.getState()).data as ResponseAsset[])[0].tags
  void store.dispatch(api.endpoints.responses.initiate(undefined))
  await vi.waitFor(() => expect(waiting).toHaveLength(1))
  waiting.shift()?.()
  await vi.waitFor(() => expect(tags()).toEqual(['ribbon']))

  // the list is asked for anew, and a tag is added before it comes
  store.dispatch(api.util.invalidateTags(['Responses']))
  await vi.waitFor(() => expect(waiting).toHaveLength(1))
  const changed = store.dispatch(api.endpoints.changeResponses.initiate({ hashes: ['a'], addTag: 'warm' }))
  expect(tags()).toEqual(['ribbon', 'warm'])
  await changed
  waiting.shift()?.()
  await vi.waitFor(() => expect(waiting).toHaveLength(1))
  waiting.shift()?.()
  await vi.waitFor(() => expect(tags()).toEqual(['ribbon', 'warm']))
})
