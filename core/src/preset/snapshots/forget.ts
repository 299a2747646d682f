import { partsOf } from '../chain/chain'
import type { Preset } from '../preset'

/** Forgets what snapshots change on stages and lanes that are gone. */
export function forgetCells(preset: Preset): Preset {
  const there = new Set(partsOf(preset.chain).map((s) => s.id))
  if (preset.snapshots.every((s) => Object.keys(s.stages).every((id) => there.has(id)))) return preset
  return {
    ...preset,
    snapshots: preset.snapshots.map((snapshot) => ({
      ...snapshot,
      stages: Object.fromEntries(Object.entries(snapshot.stages).filter(([id]) => there.has(id))),
    })),
  }
}
