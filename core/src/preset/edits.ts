import { aboutEdits } from './about/edits'
import { asideEdits } from './aside/edits'
import { benchEdits } from './bench/edits'
import { boardEdits } from './board/edits'
import { forgetFunctions } from './board/forget'
import { laneEdits } from './chain/laneEdits'
import { stageEdits } from './chain/stageEdits'
import { controlEdits } from './controls/edits'
import { forgetTargets } from './controls/forget'
import type { EditKind, EditsOf } from './edit'
import { guitarEdits } from './guitars/edits'
import { forgetFits } from './guitars/forget'
import { layerEdits } from './layers/edits'
import { levelEdits } from './levels/edits'
import { forgetTrim } from './levels/forget'
import { midiEdits } from './midi/edits'
import type { Preset } from './preset'
import { cellEdits } from './snapshots/cellEdits'
import { snapshotEdits } from './snapshots/edits'
import { forgetCells } from './snapshots/forget'
import { takeEdits } from './takes/edits'

const kinds = {
  ...aboutEdits,
  ...stageEdits,
  ...laneEdits,
  ...snapshotEdits,
  ...cellEdits,
  ...levelEdits,
  ...guitarEdits,
  ...benchEdits,
  ...controlEdits,
  ...boardEdits,
  ...midiEdits,
  ...layerEdits,
  ...takeEdits,
  ...asideEdits,
}

/** What each part forgets once something is gone; the order matters: switches name sources, sources name stages. */
const FORGETS: readonly ((preset: Preset) => Preset)[] = [forgetTrim, forgetCells, forgetTargets, forgetFunctions, forgetFits]

/** One step that a player can take and undo. `snapshot: null` means the base. New ids come with the edit, so that it is pure. */
export type Edit =
  | EditsOf<typeof kinds>
  /** Several edits as one step. */
  | { readonly type: 'all'; readonly edits: readonly Edit[] }
  | { readonly type: 'replace'; readonly preset: Preset }

type Single = EditsOf<typeof kinds>

// which kind an edit is of, the compiler cannot follow through the table
const kindOf = (edit: Single): EditKind<Single> => kinds[edit.type] as unknown as EditKind<Single>

/**
 * Applies an edit; the result shares what did not change. An edit that changes nothing returns the same object.
 * @throws RangeError with a sentence for the player when the edit cannot be made
 */
export function applyEdit(preset: Preset, edit: Edit): Preset {
  if (edit.type === 'all') return edit.edits.reduce(applyEdit, preset)
  if (edit.type === 'replace') return edit.preset
  const kind = kindOf(edit)
  const next = kind.apply(preset, edit)
  return kind.removes && next !== preset ? FORGETS.reduce((p, forget) => forget(p), next) : next
}

/** Edits with the same key that follow each other quickly are one step of undo. */
export function coalescingKey(edit: Edit): string | null {
  if (edit.type === 'all' || edit.type === 'replace') return null
  const key = kindOf(edit).joins?.(edit)
  return key === undefined ? null : `${edit.type} ${key}`
}

/** ms within which edits with the same key are one step, where it is not the usual time. */
export const joinsWithin = (edit: Edit): number | undefined =>
  edit.type === 'all' || edit.type === 'replace' ? undefined : kindOf(edit).within?.(edit)
