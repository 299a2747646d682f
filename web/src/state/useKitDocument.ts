import { useCallback, useEffect, useMemo, useState, useSyncExternalStore } from 'react'
import { KitEditing, type KitSource, type Standing } from './kitEditing'

const opened = new Map<string, KitEditing<unknown>>()

export interface KitDocument<T> {
  readonly document: T | null
  /** Why there is none. */
  readonly missing: string | null
  readonly standing: Standing
  /** @param key edits with the same key that follow each other quickly are one step of undo */
  readonly change: (next: T, key?: string) => void
  readonly canUndo: boolean
  readonly canRedo: boolean
  readonly undo: () => void
  readonly redo: () => void
  readonly settle: (mine: boolean) => void
}

/**
 * A document of the Kit, as it is edited here; Ctrl/Cmd Z and Shift Z undo and redo.
 * @param keys false beside an open preset, whose keys these are
 */
export function useKitDocument<T>(id: string, source: KitSource<T>, keys = true): KitDocument<T> {
  const editing = useMemo(() => {
    const key = `${source.kind} ${id}`
    let found = opened.get(key) as KitEditing<T> | undefined
    if (!found) opened.set(key, (found = new KitEditing(id, source)))
    return found
  }, [id, source])
  useSyncExternalStore(editing.subscribe, editing.now)
  const [, reopen] = useState(0)
  useEffect(() => {
    void editing.open().then(() => reopen((n) => n + 1))
    return () => editing.flush()
  }, [editing])
  useEffect(() => {
    if (!keys) return
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.altKey || event.key.toLowerCase() !== 'z') return
      if (event.target instanceof HTMLElement && event.target.dataset.dirty === 'true') return
      event.preventDefault()
      if (event.shiftKey) editing.redo()
      else editing.undo()
    }
    addEventListener('keydown', onKey)
    return () => removeEventListener('keydown', onKey)
  }, [editing, keys])
  const change = useCallback((next: T, key = '') => editing.change(next, key), [editing])
  return {
    document: editing.present,
    missing: editing.missing,
    standing: editing.standing,
    change,
    canUndo: editing.past.length > 0,
    canRedo: editing.future.length > 0,
    undo: () => editing.undo(),
    redo: () => editing.redo(),
    settle: (mine) => void editing.settle(mine),
  }
}
