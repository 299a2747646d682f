import { nanoid } from 'nanoid'
import { MAX_SNAPSHOTS, resolveStage, stagesOf, type Edit, type Preset, type StageNode } from '@fulgor/core/preset'
import { modelOf } from '@fulgor/core/catalogue'
import { edited } from './editor'
import { notified } from './notices'
import type { RootState, Thunk } from './store'

export const newId = (): string => nanoid(10)

export const presentPreset = (state: RootState): Preset | null => state.editor.history?.present ?? null

/** Makes an edit; when it cannot be made, the player is told why and nothing changes. */
export const edit =
  (change: Edit): Thunk =>
  (dispatch) => {
    try {
      dispatch(edited({ edit: change, at: performance.now() }))
    } catch (error) {
      if (!(error instanceof RangeError)) throw error
      dispatch(notified({ kind: 'warning', text: error.message }))
    }
  }

/** The snapshot that an edit goes to: the lit one, or null for the base. */
export const editTarget = (state: RootState): string | null => (state.editor.scope === 'snapshot' ? state.editor.snapshot : null)

export const addSnapshot =
  (source: string | null): Thunk<string | null> =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    if (!preset) return null
    const id = newId()
    const from = preset.snapshots.find((s) => s.id === source)
    if (from) dispatch(edit({ type: 'duplicateSnapshot', source: from.id, snapshot: id, name: `${from.name} copy` }))
    else dispatch(edit({ type: 'addSnapshot', snapshot: id, name: `Snapshot ${preset.snapshots.length + 1}` }))
    return preset.snapshots.length < MAX_SNAPSHOTS ? id : null
  }

/** The stage that levelling trims: the last Output. */
export const outputStage = (preset: Preset): StageNode | undefined => stagesOf(preset.chain).findLast((s) => s.model === 'output')

/**
 * Levels snapshots to the preset's target by the trim of their Output stage, from the measured loudness; one step of undo.
 * @param only this snapshot alone
 */
export const levelSnapshots =
  (only?: string): Thunk =>
  (dispatch, getState) => {
    const state = getState()
    const preset = presentPreset(state)
    if (!preset) return
    const output = outputStage(preset)
    if (!output) {
      dispatch(notified({ kind: 'warning', text: 'Levelling needs an Output stage: add one at the end of the chain.' }))
      return
    }
    const spec = modelOf('output').params.level
    if (spec.kind !== 'number') return
    const levels: Record<string, number> = {}
    const short: string[] = []
    for (const snapshot of preset.snapshots) {
      if (only && snapshot.id !== only) continue
      const measured = state.measures.snapshots[snapshot.id]
      const lufs = measured?.fresh ? measured.output?.integratedLufs : undefined
      if (lufs === undefined || lufs === null) {
        short.push(`${snapshot.name} (${measured?.fresh ? 'silent' : 'not measured yet'})`)
        continue
      }
      const wanted = Number(resolveStage(preset, output, snapshot.id).params.level) + preset.targetLufs - lufs
      const level = Math.min(spec.max, Math.max(spec.min, Math.round(wanted * 100) / 100))
      if (level !== Math.round(wanted * 100) / 100) short.push(`${snapshot.name} (the trim ends at ${level} dB)`)
      levels[snapshot.id] = level
    }
    if (Object.keys(levels).length > 0) dispatch(edit({ type: 'setOutputLevels', stage: output.id, levels }))
    if (short.length > 0) dispatch(notified({ kind: 'warning', text: `Not levelled: ${short.join(', ')}.` }))
  }
