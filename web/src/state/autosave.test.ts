import { afterAll, afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { demoPresets } from '@fulgor/core/demo'
import type { UpdateRequest } from '@fulgor/core/api'
import { readPreset } from '@fulgor/core/preset'
import { edit } from './actions'
import { startAutosave } from './autosave'
import { closed, opened, undone } from './editor'
import { keepPending } from './pending'
import { createStore } from './store'
import { answering, fakeStorage, storedPreset } from './testing'

const kept = fakeStorage()
const pit = demoPresets[0].preset
type Put = UpdateRequest & { save?: boolean; note?: string }

/** The server of these tests: what was put, and what it answers. */
interface Server {
  puts: Put[]
  answer: (put: Put) => { status: number; body: unknown } | 'away'
}

const events = new Map<string, () => void>()
const server: Server = { puts: [], answer: () => 'away' }
const taken = (put: Put) => ({ status: 200, body: { revision: put.baseRevision + 1, updatedAt: 77, version: 3 } })

// Node has neither a page's address nor its events
vi.stubGlobal('addEventListener', (type: string, hear: () => void) => events.set(type, hear))
answering(async (request) => {
  const put = (await request.json()) as Put
  server.puts.push(put)
  const answer = server.answer(put)
  if (answer === 'away') throw new TypeError('Failed to fetch')
  return new Response(JSON.stringify(answer.body), { status: answer.status, headers: { 'content-type': 'application/json' } })
})
afterAll(() => vi.unstubAllGlobals())

describe('autosave', () => {
  let store: ReturnType<typeof createStore>['store']
  let save: (note?: string) => Promise<void>
  beforeEach(() => {
    vi.useFakeTimers()
    kept.clear()
    server.puts = []
    server.answer = taken
    const made = createStore()
    store = made.store
    ;({ save } = startAutosave(made.listen, store))
    store.dispatch(opened({ stored: storedPreset(pit), pending: null, snapshot: null }))
  })
  afterEach(() => {
    vi.useRealTimers()
  })
  const tempo = (value: number) => store.dispatch(edit({ type: 'setTempo', tempo: value }))
  const status = () => store.getState().editor.sync.status
  const pass = (ms: number) => vi.advanceTimersByTimeAsync(ms)

  it('sends after a short quiet, once for several edits, on top of the revision that it knows', async () => {
    for (const value of [100, 101, 102]) {
      tempo(value)
      await pass(300)
    }
    expect(server.puts).toHaveLength(0)
    expect(status()).toBe('waiting')
    await pass(800)
    expect(server.puts.map((p) => [p.document.tempo, p.baseRevision])).toEqual([[102, 4]])
    expect(status()).toBe('saved')
    tempo(103)
    await pass(1_000)
    expect(server.puts[1].baseRevision).toBe(5)
  })

  it('keeps an edit in the browser at once, and lets go of it when the server has it', async () => {
    tempo(100)
    expect([...kept.keys()].filter((key) => key.startsWith('fulgor.pending.p'))).toHaveLength(1)
    await pass(1_000)
    expect([...kept.keys()].filter((key) => key.startsWith('fulgor.pending.p'))).toHaveLength(0)
  })

  it('sends nothing when an edit was undone before', async () => {
    tempo(100)
    store.dispatch(undone())
    await pass(1_000)
    expect(server.puts).toHaveLength(0)
    expect(status()).toBe('saved')
    expect(kept.size).toBe(0)
  })

  it('asks a lost server again until it is back', async () => {
    server.answer = () => 'away'
    tempo(100)
    await pass(1_000)
    expect(status()).toBe('offline')
    await pass(6_500)
    expect(server.puts.length).toBeGreaterThanOrEqual(3)
    server.answer = taken
    await pass(3_100)
    expect(status()).toBe('saved')
  })

  it('sends at once when the network is back', async () => {
    server.answer = () => 'away'
    tempo(100)
    await pass(1_000)
    server.answer = taken
    events.get('online')?.()
    await pass(10)
    expect(status()).toBe('saved')
  })

  it('sends what is left when the page goes', async () => {
    tempo(100)
    events.get('pagehide')?.()
    await pass(10)
    expect(server.puts).toHaveLength(1)
  })

  it('sends the last edits of a sheet that is left, also those made while others were on their way', async () => {
    tempo(100)
    await pass(700)
    tempo(101)
    store.dispatch(closed())
    await pass(200)
    expect(server.puts.map((p) => [p.document.tempo, p.baseRevision])).toEqual([
      [100, 4],
      [101, 5],
    ])
    expect([...kept.keys()].filter((key) => key.startsWith('fulgor.pending.p'))).toHaveLength(0)
  })

  it('keeps the edits of a sheet that is left while the server is away, and sends none that were undone', async () => {
    server.answer = () => 'away'
    tempo(100)
    store.dispatch(closed())
    await pass(200)
    expect([...kept.keys()].filter((key) => key.startsWith('fulgor.pending.p'))).toHaveLength(1)
    expect(server.puts).toHaveLength(1)
    store.dispatch(opened({ stored: storedPreset(pit), pending: null, snapshot: null }))
    tempo(101)
    store.dispatch(undone())
    store.dispatch(closed())
    await pass(200)
    expect(server.puts).toHaveLength(1)
  })

  it('never overwrites what another writer stored: it stops and asks', async () => {
    const current = { revision: 9, document: { ...pit, name: 'of the other one' } }
    server.answer = () => ({ status: 409, body: { error: { message: 'Changed elsewhere.', current } } })
    tempo(100)
    await pass(1_000)
    expect(status()).toBe('conflict')
    expect(store.getState().editor.conflict?.revision).toBe(9)
    tempo(101)
    await pass(10_000)
    expect(server.puts).toHaveLength(1)
  })

  /** As the server tells it. */
  const dtoOf = (change: (preset: typeof pit) => typeof pit) => readPreset(JSON.parse(JSON.stringify(change(pit))))
  /** A server on which somebody else's, or this browser's, write stands. */
  const standing = (document: typeof pit) => (put: Put) =>
    put.baseRevision === 9
      ? taken(put)
      : { status: 409, body: { error: { message: 'Changed elsewhere.', current: { revision: 9, document } } } }

  it('goes on top of what a page before the reload sent, though it reached the server only now', async () => {
    const late = dtoOf((preset) => ({ ...preset, tempo: 99 }))
    store.dispatch(closed())
    await pass(10)
    keepPending('p', { document: late, baseRevision: 4, sent: late })
    store.dispatch(opened({ stored: storedPreset(pit), pending: late, snapshot: null }))
    tempo(101)
    server.answer = standing(late)
    await pass(1_000)
    expect(server.puts.map((p) => [p.document.tempo, p.baseRevision])).toEqual([
      [101, 4],
      [101, 9],
    ])
    expect(status()).toBe('saved')
    expect(store.getState().editor.revision).toBe(10)
  })

  it('goes on top of its own write whose answer was lost, once, and asks where that does not help', async () => {
    server.answer = () => 'away'
    tempo(100)
    await pass(1_000)
    tempo(101)
    server.answer = standing(dtoOf((preset) => ({ ...preset, tempo: 100 })))
    await pass(4_000)
    expect(status()).toBe('saved')
    server.answer = () => 'away'
    tempo(102)
    await pass(1_000)
    const current = { revision: 20, document: dtoOf((preset) => ({ ...preset, tempo: 102 })) }
    server.answer = () => ({ status: 409, body: { error: { message: 'Changed elsewhere.', current } } })
    tempo(103)
    await pass(10_000)
    expect(status()).toBe('conflict')
  })

  it('says what the server refused, keeps it and tries again', async () => {
    server.answer = () => ({ status: 422, body: { error: { message: 'tempo: must be at most 300.' } } })
    tempo(100)
    await pass(1_000)
    expect(status()).toBe('failed')
    expect(store.getState().editor.sync.message).toContain('tempo')
    expect([...kept.keys()].some((key) => key.startsWith('fulgor.pending.p'))).toBe(true)
  })

  it('tells once that the preset lies in the bin', async () => {
    server.answer = () => ({ status: 404, body: { error: { message: 'There is no preset p.' } } })
    tempo(100)
    await pass(8_000)
    expect(server.puts.length).toBeGreaterThan(1)
    expect(store.getState().notices.filter((n) => n.text.includes('taken off the shelf'))).toHaveLength(1)
  })

  it('saves a version with its note, also with nothing edited', async () => {
    await Promise.all([save('before the tour'), pass(200)])
    expect(server.puts).toMatchObject([{ save: true, note: 'before the tour' }])
    expect(store.getState().editor.saved?.number).toBe(3)
  })
})
