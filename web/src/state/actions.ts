import { landing, MAX_SNAPSHOTS, type Edit, type Preset } from '@fulgor/core/preset'
import { edited, stageChosen } from './editor'
import { handClock } from './handClock'
import { notified } from './notices'
import { placeFor } from './placing'
import { newId } from './ids'
import type { RootState, Thunk } from './store'

export { newId }

export const presentPreset = (state: RootState): Preset | null => state.editor.history?.present ?? null

/** Makes an edit; when it cannot be made, the player is told why and nothing changes. */
export const edit =
  (change: Edit): Thunk =>
  (dispatch) => {
    try {
      dispatch(edited({ edit: change, at: handClock.now() }))
    } catch (error) {
      if (!(error instanceof RangeError)) throw error
      dispatch(notified({ kind: 'warning', text: error.message }))
    }
  }

/** The snapshot whose own value an edit of this one becomes, or null for the base; see {@link landing}. */
export function landsIn(state: RootState, stage: string, key: string): string | null {
  const preset = presentPreset(state)
  const { snapshot, reach } = state.editor
  return preset ? landing(preset, { id: stage }, key, snapshot, reach).snapshot : null
}

/** Sets a value where it lands: in the lit snapshot or the base. */
export const setValue =
  (stage: string, param: string, value: number | string): Thunk =>
  (dispatch, getState) => {
    dispatch(edit({ type: 'setParam', stage, snapshot: landsIn(getState(), stage, param), param, value }))
  }

/** Gives the lit snapshot's own value back to the base. */
export const resetValue =
  (stage: string, param: string): Thunk =>
  (dispatch, getState) => {
    const { snapshot } = getState().editor
    if (snapshot) dispatch(edit({ type: 'resetCell', stage, snapshot, param }))
  }

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

/** A new stage behind the chosen one. */
export const addAfterChosen =
  (stage: string, model: string): Thunk =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    if (!preset) return
    dispatch(edit({ type: 'addStage', stage, model, ...placeFor(preset, getState().editor.stage).place }))
    dispatch(stageChosen({ stage, fresh: true }))
  }
