import { readPreset, type Preset } from '@fulgor/core/preset'
import { browserStorage } from '../storage/storage'
import { thisTab } from './tab'

/** Edits that the server does not have yet, kept in the browser so that neither a closed tab nor a lost server loses them. */
export interface Pending {
  readonly document: Preset
  readonly baseRevision: number
  /** What was sent last and not answered yet: found on the server, it is this browser's own write and no one else's. */
  readonly sent: Preset | null
}

/** Whether both are one document, as `readPreset` gives them. */
export const same = (a: Preset | null, b: Preset): boolean => JSON.stringify(a) === JSON.stringify(b)

/** What edits kept here mean beside what the server has now: it has them already, they go on top of it, or both have changed. */
export function standing(
  pending: Pending,
  stored: { readonly revision: number; readonly document: Preset },
): 'there' | 'ahead' | 'conflict' {
  if (same(pending.document, stored.document)) return 'there'
  return pending.baseRevision === stored.revision || same(pending.sent, stored.document) ? 'ahead' : 'conflict'
}

const PREFIX = 'fulgor.pending.'
/** What builds before this one kept has no tab. */
const NO_TAB = ''
/** Every tab keeps its own: two tabs on one preset never take each other's place. */
const keyOf = (id: string, tab = thisTab()): string => (tab === NO_TAB ? PREFIX + id : `${PREFIX}${id}.${tab}`)

/** Edits that follow each other within this are kept together, ms: writing them is the dearest part of a slider's step. */
const TOGETHER_MS = 250
/** What is to be kept when the time is over; null where nothing came since the last was kept. */
const soon = new Map<string, { due: ReturnType<typeof setTimeout>; keep: (() => void) | null }>()

/** Keeps an edit at once, and those that follow it fast as soon as {@link TOGETHER_MS} are over or {@link keepDue} asks for it. */
export function keepSoon(id: string, pending: Pending): void {
  const key = keyOf(id)
  const waits = soon.get(key)
  if (waits) {
    waits.keep = () => keepPending(id, pending)
    return
  }
  keepPending(id, pending)
  wait(key)
}

function wait(key: string): void {
  const over = () => {
    const keep = soon.get(key)?.keep
    soon.delete(key)
    if (!keep) return
    keep()
    wait(key)
  }
  soon.set(key, { due: setTimeout(over, TOGETHER_MS), keep: null })
}

/** Keeps now what waits: the page is about to go. */
export function keepDue(): void {
  for (const { keep } of [...soon.values()]) keep?.()
}

/** Nothing that waits may come after what is kept or cleared now. */
function overtake(key: string): void {
  clearTimeout(soon.get(key)?.due)
  soon.delete(key)
}

/** A browser that has no room is no reason not to send the edit: what is kept then would only be out of date. */
export function keepPending(id: string, pending: Pending, tab = thisTab()): void {
  overtake(keyOf(id, tab))
  if (!browserStorage.write(keyOf(id, tab), JSON.stringify({ ...pending, at: Date.now() }))) clearPending(id, tab)
}

/** @param tab whose edits; this tab's by itself */
export function clearPending(id: string, tab?: string): void {
  overtake(keyOf(id, tab))
  browserStorage.remove(keyOf(id, tab))
}

/** Edits that one tab kept. */
export interface Kept {
  readonly tab: string
  /** ms since 1970. */
  readonly at: number
  readonly pending: Pending
}

/**
 * What this tab kept of a preset, and what tabs did that are closed, newest first.
 * @param open tabs whose edits are their own
 */
export function readKept(id: string, open: ReadonlySet<string>): Kept[] {
  const mine = thisTab()
  return keysOf(id)
    .map((key) => ({ key, tab: key.slice(PREFIX.length + id.length + 1) }))
    .filter(({ tab }) => tab === mine || !open.has(tab))
    .flatMap(({ key, tab }) => {
      const kept = read(key)
      return kept ? [{ tab, ...kept }] : []
    })
    .sort((a, b) => (a.tab === mine ? -1 : b.tab === mine ? 1 : b.at - a.at))
}

/**
 * Everything that this browser keeps and the server may not have, newest first.
 * @param open tabs that send theirs themselves
 */
export function readAllKept(open: ReadonlySet<string>): (Kept & { readonly id: string })[] {
  return browserStorage
    .keys()
    .filter((key) => key.startsWith(PREFIX))
    .flatMap((key) => {
      const [id, tab = NO_TAB] = key.slice(PREFIX.length).split('.')
      const kept = open.has(tab) ? null : read(key)
      return kept ? [{ id, tab, ...kept }] : []
    })
    .sort((a, b) => b.at - a.at)
}

const keysOf = (id: string): string[] => browserStorage.keys().filter((key) => key === PREFIX + id || key.startsWith(`${PREFIX}${id}.`))

function read(key: string): Omit<Kept, 'tab'> | null {
  const text = browserStorage.read(key)
  if (text === null) return null
  try {
    const { document, baseRevision, sent, at } = JSON.parse(text) as Record<string, unknown>
    if (typeof baseRevision !== 'number') return null
    const pending = { document: readPreset(document), baseRevision, sent: sent ? readPreset(sent) : null }
    return { at: typeof at === 'number' ? at : 0, pending }
  } catch {
    return null
  }
}
