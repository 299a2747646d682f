import { findStage, isLive, positionOf, resolveStage, targetSpec, type Control, type Positions, type Preset } from '@fulgor/core/preset'
import { restingSources } from '@fulgor/core/board'
import { presentPreset } from './actions'
import { stagesToggled } from './boardSlice'
import { engagementsSet, restingSet, sourceMoved, sourcesForgotten } from './controlsSlice'
import { snapshotChosen } from './editor'
import type { Listening, RootState, Thunk } from './store'

export const positionIn = (state: RootState, control: Control): number => state.controls.positions[control.id] ?? control.rest

/** Positions of the sources that act now. */
export function actingPositions(state: RootState, preset: Preset): Positions {
  return Object.fromEntries(
    (preset.controls ?? []).flatMap((c) =>
      !state.controls.resting.includes(c.id) && (state.controls.engaged[c.id] ?? c.onSnapshot === 'jump')
        ? [[c.id, positionIn(state, c)]]
        : [],
    ),
  )
}

/** Where a source must stand to be at what a snapshot stores for its first target; null where it cannot. */
export function storedPosition(preset: Preset, control: Control, snapshot: string | null): number | null {
  for (const target of control.targets) {
    const stage = findStage(preset, target.stage)
    const spec = targetSpec(preset, target)
    if (!isLive(target, snapshot) || !stage || spec?.kind !== 'number') continue
    return positionOf(spec, target, resolveStage(preset, stage, snapshot).params[target.param])
  }
  return null
}

/** How near to the stored value a source must come to pick it up. */
const NEAR = 0.02

/** Moves a source. One that waits for pickup acts from where it passes the stored value on; one that was kept acts at once. */
export const moveControl =
  (control: Control, position: number): Thunk =>
  (dispatch, getState) => {
    const state = getState()
    const preset = presentPreset(state)
    if (!preset) return
    const before = positionIn(state, control)
    let engaged = state.controls.engaged[control.id] ?? control.onSnapshot === 'jump'
    if (!engaged) {
      const stored = control.onSnapshot === 'pickup' ? storedPosition(preset, control, state.editor.snapshot) : null
      engaged = stored === null || Math.abs(position - stored) <= NEAR || (before - stored) * (position - stored) <= 0
    }
    dispatch(sourceMoved({ id: control.id, position: Math.min(1, Math.max(0, position)), engaged }))
  }

/** A snapshot is loaded afresh: sources begin as they are told to, and what a foot has switched is as stored. */
const recall = (): Thunk => (dispatch, getState) => {
  const preset = presentPreset(getState())
  if (!preset) return
  dispatch(engagementsSet(Object.fromEntries((preset.controls ?? []).map((c) => [c.id, c.onSnapshot === 'jump']))))
  dispatch(restingSet(restingSources(preset)))
  dispatch(stagesToggled(null))
}

/** Loads a snapshot, also the one that is lit. */
export const loadSnapshot =
  (snapshot: string): Thunk =>
  (dispatch, getState) => {
    if (getState().editor.snapshot === snapshot) dispatch(recall())
    else dispatch(snapshotChosen(snapshot))
  }

/** A snapshot that is loaded takes its sources with it, each as it is told to. */
export function startControls(listen: Listening): void {
  listen({
    predicate: (_, { editor }, { editor: before }) => editor.id !== before.id || editor.snapshot !== before.snapshot,
    effect: (_, { dispatch, ...page }) => {
      if (page.getState().editor.id !== page.getOriginalState().editor.id) dispatch(sourcesForgotten())
      dispatch(recall())
    },
  })
}
