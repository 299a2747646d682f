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

const same = (a: Preset | null, b: Preset): boolean => JSON.stringify(a) === JSON.stringify(b)

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

/** A browser that has no room is no reason not to send the edit: what is kept then would only be out of date. */
export function keepPending(id: string, pending: Pending, tab = thisTab()): void {
  if (!browserStorage.write(keyOf(id, tab), JSON.stringify({ ...pending, at: Date.now() }))) clearPending(id, tab)
}

/** @param tab whose edits; this tab's by itself */
export const clearPending = (id: string, tab?: string): void => browserStorage.remove(keyOf(id, tab))

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
