import { createSlice, type PayloadAction } from '@reduxjs/toolkit'
import { castDraft } from 'immer'
import type { Preset } from '@fulgor/core/preset'
import type { Reading } from '@fulgor/core/reading'

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
