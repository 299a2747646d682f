import type { Preset } from '../preset'
import type { Snapshot } from './description'

export const findSnapshot = (preset: Preset, id: string | null): Snapshot | undefined => preset.snapshots.find((s) => s.id === id)

/** @throws RangeError where it is not there */
export function requireSnapshot(preset: Preset, id: string): Snapshot {
  const snapshot = findSnapshot(preset, id)
  if (!snapshot) throw new RangeError(`There is no snapshot “${id}” in this preset.`)
  return snapshot
}

export function mapSnapshot(preset: Preset, id: string, change: (snapshot: Snapshot) => Snapshot): Preset {
  requireSnapshot(preset, id)
  return { ...preset, snapshots: preset.snapshots.map((s) => (s.id === id ? change(s) : s)) }
}
