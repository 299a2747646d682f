import { nanoid } from 'nanoid'
import type { ApiError } from '@fulgor/core/api'
import { readPreset, type Preset } from '@fulgor/core/preset'
import { api, isAway, sentenceOf } from '../api/api'
import { conflictFound, opened, refreshed, syncChanged, versionSaved } from './editor'
import type { EditorState } from './editorState'
import { notified } from './notices'
import { readHistory } from './undoStore'
import { clearPending, keepDue, keepPending, keepSoon, readKept, same, standing, type Kept } from './pending'
import type { Listening, Store, Thunk } from './store'
import { openTabs, tabReady, thisTab } from './tab'
import { hearTabs, tellTabs } from './tabs'

const QUIET_MS = 700
const RETRY_MS = 3_000
/** Writes without an answer that are told from somebody else's. */
const MOST_UNHEARD = 20

/** A moment until the server may have answered what was sent before. */
const quiet = () => new Promise((done) => setTimeout(done, 60))

/** This tab, to the server. */
const writer = nanoid()

/** Edits of sheets that were left on their way to the server, by preset: who opens it again waits for them. */
const leaving = new Map<string, Promise<void>>()

/** Opens a preset on the Sheet, with edits that an earlier session could not send. */
export const openPreset =
  (id: string, snapshot: string | null): Thunk<Promise<string | null>> =>
  async (dispatch) => {
    await leaving.get(id)
    const request = dispatch(api.endpoints.preset.initiate(id, { forceRefetch: true, subscribe: false }))
    const { data, error } = await request
    if (!data) return sentenceOf(error)
    await tabReady
    const ahead: Kept[] = []
    for (const kept of readKept(id, await openTabs()))
      if (standing(kept.pending, data) === 'there') clearPending(id, kept.tab)
      else ahead.push(kept)
    const [found, ...others] = ahead as [Kept | undefined, ...Kept[]]
    const how = found ? standing(found.pending, data) : 'there'
    const pending = found?.pending ?? null
    if (found && found.tab !== thisTab()) {
      keepPending(id, found.pending)
      clearPending(id, found.tab)
    }
    void dispatch(shelveKept(id, others))
    const kept = await readHistory(id)
    dispatch(opened({ stored: data, pending: pending?.document ?? null, snapshot, kept }))
    if (how === 'conflict') dispatch(conflictFound({ revision: data.revision, document: data.document }))
    else if (pending)
      dispatch(notified({ kind: 'note', text: 'Edits from an earlier visit that the server did not have were brought back.' }))
    return null
  }

/** Edits of the same preset that other tabs kept before they were closed: each becomes a preset of its own, so that none is lost. */
const shelveKept =
  (id: string, others: readonly Kept[]): Thunk<Promise<void>> =>
  async (dispatch) => {
    for (const { tab, at, pending } of others) {
      const time = new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
      const name = `${pending.document.name.slice(0, 60)} (kept ${time})`
      const { data } = await dispatch(api.endpoints.createPreset.initiate({ ...pending.document, name }))
      // with the server away they stay where they are until the next visit
      if (!data) return
      clearPending(id, tab)
      dispatch(notified({ kind: 'note', text: `Edits that another tab could not send are on the shelf as “${name}”.` }))
    }
  }

/** What this tab sent before it was loaded anew, where it never heard an answer. */
const sentBefore = (id: string): Preset[] => {
  const mine = readKept(id, new Set()).find(({ tab }) => tab === thisTab())
  return mine?.pending.sent ? [mine.pending.sent] : []
}

/**
 * Keeps the server up to date with the sheet: edits go to the browser's storage at once, a drag's by the quarter second, and to the server
 * after a short quiet; a lost server is asked again until it is back; another writer's revision is never overwritten.
 */
export function startAutosave(listen: Listening, store: Pick<Store, 'dispatch' | 'getState'>): { save: (note?: string) => Promise<void> } {
  let stored: Preset | null = null
  let openId: string | null = null
  let timer: ReturnType<typeof setTimeout> | undefined
  let running = false
  /** The preset that is known to lie in the bin. */
  let missing: string | null = null
  /** What the server has not answered yet. */
  let sent: Preset | null = null
  /** What the server may take yet, or have taken, without that its answer came here: also of the page before a reload. */
  let unheard: Preset[] = []
  /** What the server took last. */
  let taken: { id: string; document: Preset; revision: number } | null = null
  let seen: { document: Preset | null; status: string } = { document: null, status: '' }

  /** The preset that is open here lies in the bin: its edits wait until it is put back. */
  const gone = (id: string) => {
    // each try to store it fails anew; once is enough
    if (missing === id) return
    missing = id
    const name = store.getState().editor.history?.present.name ?? ''
    const text = `“${name}” was taken off the shelf elsewhere. Edits of it are kept in this browser only.`
    store.dispatch(notified({ kind: 'warning', text, undo: { type: 'bringBack', id, name } }))
  }
  const later = (ms: number) => {
    clearTimeout(timer)
    timer = setTimeout(() => void send(false), ms)
  }

  const send = async (save: boolean, note?: string): Promise<void> => {
    const { id, history, revision, sync } = store.getState().editor
    if (!id || !history || sync.status === 'conflict') return
    if (running) {
      await quiet()
      return send(save, note)
    }
    const document = history.present
    if (!save && document === stored) {
      // an edit was undone before it was sent
      if (sync.status === 'waiting') {
        clearPending(id)
        store.dispatch(syncChanged({ status: 'saved' }))
      }
      return
    }
    running = true
    store.dispatch(syncChanged({ status: 'saving' }))
    keepPending(id, { document, baseRevision: revision, sent: document })
    sent = document
    // a server that is away is asked over and over
    if (unheard.at(-1) !== document) unheard = [...unheard.slice(1 - MOST_UNHEARD), document]
    const { data, error } = await store.dispatch(
      api.endpoints.updatePreset.initiate({ id, document, baseRevision: revision, save, note, writer }),
    )
    running = false
    if (data) taken = { id, document, revision: data.revision }
    if (store.getState().editor.id !== id) return
    if (data) {
      stored = document
      sent = null
      unheard = []
      missing = null
      const unchanged = store.getState().editor.history?.present === document
      if (unchanged) clearPending(id)
      else keepPending(id, { document: store.getState().editor.history?.present ?? document, baseRevision: data.revision, sent: null })
      store.dispatch(syncChanged({ status: unchanged ? 'saved' : 'waiting', at: data.updatedAt, revision: data.revision }))
      if (save) store.dispatch(versionSaved({ number: data.version, createdAt: data.updatedAt, document }))
      tellTabs({ id, revision: data.revision })
      if (!unchanged) later(QUIET_MS)
      return
    }
    const status = (error as { status?: unknown }).status
    const current = ((error as { data?: Partial<ApiError> }).data?.error ?? {}).current
    if (status === 409 && current) {
      const own = unheard.findIndex((document) => same(readPreset(document), current.document))
      if (own >= 0) {
        // no one else's: it came late, and this goes on top of it
        unheard.splice(own, 1)
        store.dispatch(syncChanged({ status: 'waiting', revision: current.revision }))
        return send(save, note)
      }
      store.dispatch(conflictFound({ revision: current.revision, document: current.document }))
      return
    }
    if (status === 404) gone(id)
    store.dispatch(syncChanged({ status: isAway(error) ? 'offline' : 'failed', message: sentenceOf(error) }))
    if (save) store.dispatch(notified({ kind: 'warning', text: `Not saved as a version: ${sentenceOf(error)}` }))
    later(RETRY_MS)
  }

  /** The sheet was left before its last edits were with the server: they go all the same, or stay kept here. */
  const sendLeft = async ({ id, history, revision, sync }: EditorState, known: Preset | null): Promise<void> => {
    if (!id || !history || sync.status === 'saved' || sync.status === 'conflict') return
    const document = history.present
    while (running) await quiet()
    const mine = taken?.id === id && taken.revision > revision ? taken : null
    if ((mine?.document ?? known) !== document) {
      const baseRevision = mine?.revision ?? revision
      keepPending(id, { document, baseRevision, sent: document })
      const { data } = await store.dispatch(api.endpoints.updatePreset.initiate({ id, document, baseRevision, save: false, writer }))
      if (!data) return
      tellTabs({ id, revision: data.revision })
    }
    clearPending(id)
  }

  const leave = (id: string, left: EditorState, known: Preset | null) => {
    const sent = (leaving.get(id) ?? Promise.resolve()).then(() => sendLeft(left, known))
    leaving.set(id, sent)
    void sent.finally(() => leaving.get(id) === sent && leaving.delete(id))
  }

  const follow = (before: EditorState) => {
    const { id, history, revision, sync } = store.getState().editor
    if (id !== openId) {
      if (openId !== null) leave(openId, before, stored)
      openId = id
      missing = null
      sent = null
      unheard = id === null ? [] : sentBefore(id)
      stored = history && sync.status === 'saved' ? history.present : null
      clearTimeout(timer)
      if (id && sync.status === 'waiting') later(0)
      return
    }
    if (!id || !history) return
    if (sync.status === 'saved' && stored !== history.present) stored = history.present
    if (history.present === seen.document && sync.status === seen.status) return
    seen = { document: history.present, status: sync.status }
    if (sync.status === 'waiting' || sync.status === 'offline' || sync.status === 'failed') {
      keepSoon(id, { document: history.present, baseRevision: revision, sent })
      if (sync.status === 'waiting') later(QUIET_MS)
    }
  }
  listen({ predicate: (_, now, before) => now.editor !== before.editor, effect: (_, page) => follow(page.getOriginalState().editor) })
  hearTabs((told) => {
    const { id, revision, sync } = store.getState().editor
    if (told.id !== id) return
    if ('gone' in told) return gone(told.id)
    if (told.revision <= revision || sync.status !== 'saved') return
    void store.dispatch(api.endpoints.preset.initiate(told.id, { forceRefetch: true, subscribe: false })).then(({ data: fresh }) => {
      const now = store.getState().editor
      if (!fresh || now.id !== fresh.id || now.sync.status !== 'saved' || fresh.revision <= now.revision) return
      store.dispatch(refreshed(fresh))
      store.dispatch(
        notified({ kind: 'note', text: 'This preset was changed in another tab; the sheet shows its state. Undo brings yours back.' }),
      )
    })
  })
  addEventListener('online', () => later(0))
  addEventListener('pagehide', () => {
    keepDue()
    void send(false)
  })
  return { save: (note) => send(true, note) }
}
