import type { StageNode } from '../chain/description'
import type { Preset } from '../preset'
import { BENCH_KEY } from './resolve'
import { findSnapshot } from './snapshots'

/** What the lit snapshot's edits reach: itself alone, or every snapshot that shares the value with it. */
export type Reach = 'own' | 'shared'

/** Where an edit of one value goes. It is always heard in the lit snapshot. */
export interface Landing {
  /** Whose own value it becomes; null is the base. */
  readonly snapshot: string | null
  /** Ids of all snapshots that change with it, in their order. */
  readonly changes: readonly string[]
  /** The lit snapshot holds this value for itself already. */
  readonly own: boolean
}

/** Whether a snapshot holds a value (a parameter's key, `on` or `bench`) for itself. */
export function holds(preset: Preset, stage: string, key: string, snapshot: string): boolean {
  const cell = findSnapshot(preset, snapshot)?.stages[stage]
  if (!cell) return false
  if (key === 'on') return cell.on !== undefined
  return key === BENCH_KEY ? cell.bench !== undefined : cell.params?.[key] !== undefined
}

/**
 * Where an edit goes so that it is heard: a value that the lit snapshot holds for itself changes there; a shared one changes there alone
 * or in all that share it, as the reach says. With one snapshot there is nothing to tell apart.
 * @param lit the snapshot that sounds; an unknown one stands for the base
 */
export function landing(preset: Preset, stage: Pick<StageNode, 'id'>, key: string, lit: string | null, reach: Reach): Landing {
  const snapshot = findSnapshot(preset, lit)
  const sharing = preset.snapshots.filter((s) => !holds(preset, stage.id, key, s.id)).map((s) => s.id)
  if (!snapshot) return { snapshot: null, changes: sharing, own: false }
  const own = holds(preset, stage.id, key, snapshot.id)
  if (own || (reach === 'own' && preset.snapshots.length > 1)) return { snapshot: snapshot.id, changes: [snapshot.id], own }
  return { snapshot: null, changes: sharing, own }
}
