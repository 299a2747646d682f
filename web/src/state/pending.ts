import { readPreset, type Preset } from '@fulgor/core/preset'

/** Edits that the server does not have yet, kept in the browser so that neither a closed tab nor a lost server loses them. */
export interface Pending {
  readonly document: Preset
  readonly baseRevision: number
}

const keyOf = (id: string): string => `fulgor.pending.${id}`

export function keepPending(id: string, pending: Pending): void {
  localStorage.setItem(keyOf(id), JSON.stringify(pending))
}

export function clearPending(id: string): void {
  localStorage.removeItem(keyOf(id))
}

export function readPending(id: string): Pending | null {
  const text = localStorage.getItem(keyOf(id))
  if (text === null) return null
  try {
    const { document, baseRevision } = JSON.parse(text) as { document: unknown; baseRevision: unknown }
    return typeof baseRevision === 'number' ? { document: readPreset(document), baseRevision } : null
  } catch {
    return null
  }
}
