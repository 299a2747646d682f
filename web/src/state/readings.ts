import { createSelector, createSlice, type PayloadAction } from '@reduxjs/toolkit'
import { castDraft } from 'immer'
import { byWeight, checkPreset, checkSound, isAside, overCeiling, sparing, type Finding } from '@fulgor/core/checks'
import type { Preset } from '@fulgor/core/preset'
import type { Reading } from '@fulgor/core/reading'
import { newId } from './ids'
import { truePeaks, type MeasuresState } from './measures'

/** What was read of the sound, and of which state of the preset. */
export interface ReadingsState {
  /** The preset that all readings are of; null until the first are whole. */
  of: Preset | null
  snapshots: Record<string, Reading>
  /** While newer ones are on their way: of that preset, and those that are there. */
  coming: { of: Preset; snapshots: Record<string, Reading> } | null
  /** ms from the figures until all was read. */
  lastMs: number | null
  /** The preset as it was when the hand last rested: what the rules of values are applied to, so that no step of a slider waits for them. */
  rested: Preset | null
}

const initialState: ReadingsState = { of: null, snapshots: {}, coming: null, lastMs: null, rested: null }

const readings = createSlice({
  name: 'readings',
  initialState,
  reducers: {
    readingStarted(state, { payload }: PayloadAction<Preset>) {
      state.coming = castDraft({ of: payload, snapshots: {} })
    },
    snapshotRead(state, { payload }: PayloadAction<{ snapshot: string; reading: Reading }>) {
      if (state.coming) state.coming.snapshots[payload.snapshot] = castDraft(payload.reading)
    },
    /** All of a preset is read. */
    readingDone(state, { payload }: PayloadAction<number>) {
      if (!state.coming) return
      state.of = state.coming.of
      state.snapshots = state.coming.snapshots
      state.coming = null
      state.lastMs = payload
    },
    handRested(state, { payload }: PayloadAction<Preset | null>) {
      state.rested = castDraft(payload)
    },
    readingsCleared: () => initialState,
  },
})

export const { readingStarted, snapshotRead, readingDone, handRested, readingsCleared } = readings.actions
export const readingsReducer = readings.reducer

interface State {
  readonly editor: { readonly history: { readonly present: Preset } | null }
  readonly measures: MeasuresState
  readonly readings: ReadingsState
}

const present = (state: State): Preset | null => state.editor.history?.present ?? null

const ofValues = createSelector([(state: State) => state.readings.rested ?? present(state)], (preset) =>
  preset ? checkPreset(preset, newId) : [],
)
const ofPeaks = createSelector([present, truePeaks], (preset, peaks) => (preset ? overCeiling(preset, peaks) : []))
// of the preset that was read: while a newer one is being read, what was found before stands
const ofSound = createSelector([(s: State) => s.readings.of, (s: State) => s.readings.snapshots], (preset, snapshots) =>
  preset ? checkSound({ preset, readings: snapshots }, newId) : [],
)

/** True while what is shown of the sound is of an earlier state. */
export const readingStale = (state: State): boolean => state.readings.of !== present(state)

/** All that is found in the open preset, what will go wrong first; mends are tried once nothing is on its way, so that typing never waits. */
const allFindings = createSelector([present, ofPeaks, ofSound, ofValues, readingStale], (preset, peaks, sound, values, stale) => {
  const all = byWeight([...peaks, ...sound, ...values])
  return preset && !stale ? sparing(preset, all, newId) : all
})

/** What is found and not set aside. */
export const openFindings = createSelector([present, allFindings], (preset, all): readonly Finding[] =>
  preset ? all.filter((f) => !isAside(preset, f)) : [],
)

/** By stage, the first finding that is about it, with its number. */
export const foundAt = createSelector(
  [openFindings],
  (findings): Readonly<Record<string, { number: number; finding: Finding } | undefined>> => {
    const found: Record<string, { number: number; finding: Finding }> = {}
    findings.forEach((finding, i) => {
      for (const id of finding.where) found[id] ??= { number: i + 1, finding }
    })
    return found
  },
)

/** What the player has set aside and would be told otherwise. */
export const asideFindings = createSelector([present, allFindings], (preset, all): readonly Finding[] =>
  preset ? all.filter((f) => isAside(preset, f)) : [],
)
