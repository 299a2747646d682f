import { applyEdit, coalescingKey, joinsWithin, type Edit } from './edits'
import type { Preset } from './preset'

/** Undo and redo over whole presets, which share their unchanged parts. Pure. */
export interface History {
  readonly past: readonly Preset[]
  readonly present: Preset
  readonly future: readonly Preset[]
  readonly lastKey: string | null
  readonly lastAt: number
}

const KEPT = 500
/** ms within which edits of the same thing are one step. */
const COALESCE_MS = 800

export const createHistory = (present: Preset): History => ({ past: [], present, future: [], lastKey: null, lastAt: 0 })

/**
 * The history that was kept when the preset was open last, going on with the document as it is now: where that has become another one
 * since, the last state that was kept is one more step to go back to.
 */
export function resumed(kept: History, present: Preset): History {
  const same = JSON.stringify(kept.present) === JSON.stringify(present)
  if (same) return { ...kept, lastKey: null, lastAt: 0 }
  return { past: [...kept.past, kept.present].slice(-KEPT), present, future: [], lastKey: null, lastAt: 0 }
}

/** @param at time of the edit in ms, any origin */
export function commit(history: History, edit: Edit, at: number): History {
  const present = applyEdit(history.present, edit)
  if (present === history.present) return history
  const key = coalescingKey(edit)
  const joins =
    key !== null && key === history.lastKey && at - history.lastAt < (joinsWithin(edit) ?? COALESCE_MS) && history.past.length > 0
  return {
    past: joins ? history.past : [...history.past, history.present].slice(-KEPT),
    present,
    future: [],
    lastKey: key,
    lastAt: at,
  }
}

export function undo(history: History): History {
  const previous = history.past.at(-1)
  if (!previous) return history
  return { ...history, past: history.past.slice(0, -1), present: previous, future: [history.present, ...history.future], lastKey: null }
}

export function redo(history: History): History {
  const [next, ...future] = history.future
  if (!next) return history
  return { ...history, past: [...history.past, history.present], present: next, future, lastKey: null }
}
