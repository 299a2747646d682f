import { tempoOf } from '@fulgor/core/preset'
import { TEMPO_RANGE } from '@fulgor/core/recording'
import { estimateTaps, TAP_PAUSE_MS, tappedBpm, type TapEstimate } from '@fulgor/core/stage'
import { edit, presentPreset } from './actions'
import type { Thunk } from './store'

let taps: number[] = []

/** Sets the tempo of the lit snapshot: its own where it has one, else the preset's. */
export const setTempo =
  (bpm: number): Thunk =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    const lit = getState().editor.snapshot
    const snapshot = preset?.snapshots.find((s) => s.id === lit)
    if (!preset) return
    if (snapshot?.tempo !== undefined) dispatch(edit({ type: 'setPlan', snapshot: snapshot.id, plan: { tempo: bpm } }))
    else if (bpm !== tempoOf(preset, lit)) dispatch(edit({ type: 'setTempo', tempo: bpm }))
  }

/**
 * One tap of the player, by key or click; from the second on the tempo follows.
 * @returns what the taps say so far
 */
export const tap =
  (at: number): Thunk<TapEstimate | null> =>
  (dispatch, getState) => {
    if (at - (taps.at(-1) ?? -Infinity) > TAP_PAUSE_MS) taps = []
    taps = [...taps, at].slice(-24)
    const found = estimateTaps(taps)
    if (!found) return null
    const { snapshots } = presentPreset(getState()) ?? { snapshots: [] }
    const note = snapshots.find((s) => s.id === getState().editor.snapshot)?.tap
    const [min, max] = TEMPO_RANGE
    dispatch(setTempo(Math.round(Math.min(max, Math.max(min, tappedBpm(found.intervalMs, note))) * 10) / 10))
    return found
  }
