import { modelOf } from '@fulgor/core/catalogue'
import { findSnapshot, partsOf, resolveStage, type Preset } from '@fulgor/core/preset'
import { NOTE_VALUES, noteMs } from '@fulgor/core/stage'

/** The first delay that follows the tempo in a snapshot, at a song's tempo. */
export interface Repeats {
  readonly ms: number
  readonly note: string
  /** Note value of one tap. */
  readonly tap: string
}

const nameOf = (id: string): string => NOTE_VALUES.find((n) => n.id === id)?.name.toLowerCase() ?? id

/** @returns null where no delay that is on follows the tempo */
export function repeatsAt(preset: Preset, snapshot: string, tempo: number): Repeats | null {
  for (const stage of partsOf(preset.chain)) {
    const model = modelOf(stage.model)
    if (model.family !== 'delay') continue
    const { on, params } = resolveStage(preset, stage, snapshot)
    const note = (model.sync ?? []).map((s) => params[s.note]).find((n) => typeof n === 'string' && n !== 'free')
    if (!on || typeof note !== 'string') continue
    return { ms: noteMs(tempo, note), note: nameOf(note), tap: nameOf(findSnapshot(preset, snapshot)?.tap ?? 'quarter') }
  }
  return null
}
