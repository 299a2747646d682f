import { readPreset, type Preset } from '@fulgor/core/preset'

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

const keyOf = (id: string): string => `fulgor.pending.${id}`

/** A browser that has no room, or keeps nothing, is no reason not to send the edit: what is kept then would only be out of date. */
export function keepPending(id: string, pending: Pending): void {
  try {
    localStorage.setItem(keyOf(id), JSON.stringify(pending))
  } catch {
    clearPending(id)
  }
}

export function clearPending(id: string): void {
  try {
    localStorage.removeItem(keyOf(id))
  } catch {
    // forbidden storage holds nothing
  }
}

export function readPending(id: string): Pending | null {
  const text = localStorage.getItem(keyOf(id))
  if (text === null) return null
  try {
    const { document, baseRevision, sent } = JSON.parse(text) as { document: unknown; baseRevision: unknown; sent?: unknown }
    if (typeof baseRevision !== 'number') return null
    return { document: readPreset(document), baseRevision, sent: sent ? readPreset(sent) : null }
  } catch {
    return null
  }
}
