import type { Preset, Snapshot } from '@fulgor/core/preset'
import { presentPreset } from './actions'
import { useAppSelector } from './store'

/**
 * The open preset for what shows nothing of its chain nor of the values in its snapshots (name, tempo, riff, guitars, names of
 * snapshots): it stays the same object while only those are edited, and what uses it is not drawn anew with every step of a slider.
 */
export const useSettings = (): Preset | null => useAppSelector(presentPreset, sameSettings)

export const sameSettings = (a: Preset | null, b: Preset | null): boolean =>
  a === b ||
  (a !== null &&
    b !== null &&
    alikeBut(a, b, ['chain', 'snapshots']) &&
    a.snapshots.length === b.snapshots.length &&
    a.snapshots.every((was, k) => sameSnapshot(was, b.snapshots[k])))

const sameSnapshot = (a: Snapshot, b: Snapshot): boolean => a === b || alikeBut(a, b, ['stages'])

function alikeBut<T extends object>(a: T, b: T, left: readonly (keyof T)[]): boolean {
  const keys = new Set([...Object.keys(a), ...Object.keys(b)] as (keyof T)[])
  for (const key of left) keys.delete(key)
  return [...keys].every((key) => a[key] === b[key])
}
