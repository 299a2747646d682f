import { createSelector, createSlice, prepareAutoBatched, type CaseReducer, type PayloadAction } from '@reduxjs/toolkit'
import { shallowEqual } from 'react-redux'
import { castDraft } from 'immer'
import type { Band, OutputLevels, OutputMeasures, StageMeasures } from '@fulgor/core/measure'
import type { UnityPlace } from '../threads/levels'
import type { SnapshotFigures } from '../threads/measures'

/** What was measured of one snapshot; `fresh` once every figure belongs to the preset as it stands. */
export interface SnapshotMeasures {
  stages: Record<string, StageMeasures>
  output: OutputLevels | null
  /** Third octaves of the output; those of snapshots that are not lit come last, with their stages. */
  bands: readonly Band[] | null
  fresh: boolean
}

/** The sound against that with the chosen stage switched over. */
export interface BypassMatch {
  readonly key: string
  /** dB by which it is louder at the preset's end, and behind the stage itself; null where one of them is silent. */
  readonly db: number | null
  readonly ownDb: number | null
  /** Where the comparison is matched: in front of what clips, loudness at the end says nothing of the stage. */
  readonly at: UnityPlace
}

export interface MeasuresState {
  snapshots: Record<string, SnapshotMeasures>
  /** The lit snapshot in the last saved version, for the level-matched comparison. */
  savedLufs: { key: string; lufs: number | null } | null
  bypass: BypassMatch | null
  /** ms from the last edit until the lit snapshot's, and all snapshots', figures stood. */
  lastActiveMs: number | null
  lastAllMs: number | null
  error: string | null
}

const initialState: MeasuresState = { snapshots: {}, savedLufs: null, bypass: null, lastActiveMs: null, lastAllMs: null, error: null }

const blank = (): SnapshotMeasures => ({ stages: {}, output: null, bands: null, fresh: false })

/** What comes from the threads is drawn with the next frame, however many tell something until then. */
const told = <P>(reducer: CaseReducer<MeasuresState, PayloadAction<P>>) => ({ reducer, prepare: prepareAutoBatched<P>() })

const measures = createSlice({
  name: 'measures',
  initialState,
  reducers: {
    measuringStarted(state, { payload }: PayloadAction<readonly string[]>) {
      state.error = null
      state.lastActiveMs = state.lastAllMs = null
      for (const entry of Object.values(state.snapshots)) entry.fresh = false
      // the same entries, so that a figure that does not change is not drawn anew
      if (Object.keys(state.snapshots).join() !== payload.join())
        state.snapshots = Object.fromEntries(payload.map((id) => [id, state.snapshots[id] ?? castDraft(blank())]))
    },
    measuringCleared: () => initialState,
    stagesMeasured: told<{ snapshot: string; stages: Readonly<Record<string, StageMeasures>> }>((state, { payload }) => {
      const entry = (state.snapshots[payload.snapshot] ??= castDraft(blank()))
      for (const [stage, found] of Object.entries(payload.stages)) {
        // what is as it was need not be drawn anew
        if (!shallowEqual(entry.stages[stage], found)) entry.stages[stage] = castDraft(found)
      }
    }),
    outputsMeasured: told<Readonly<Record<string, SnapshotFigures>>>((state, { payload }) => {
      for (const [snapshot, { levels, bands }] of Object.entries(payload)) {
        const entry = (state.snapshots[snapshot] ??= castDraft(blank()))
        entry.output = castDraft(levels)
        entry.bands = castDraft(bands)
        entry.fresh = true
      }
    }),
    bandsMeasured: told<{ snapshot: string; bands: readonly Band[] | null }>((state, { payload }) => {
      const entry = state.snapshots[payload.snapshot]
      if (entry?.fresh) entry.bands = castDraft(payload.bands)
    }),
    savedMeasured: told<{ key: string; lufs: number | null }>((state, { payload }) => {
      state.savedLufs = payload
    }),
    bypassMeasured: told<BypassMatch>((state, { payload }) => {
      state.bypass = payload
    }),
    timed: told<{ activeMs?: number; allMs?: number }>((state, { payload }) => {
      if (payload.activeMs !== undefined) state.lastActiveMs = payload.activeMs
      if (payload.allMs !== undefined) state.lastAllMs = payload.allMs
    }),
    measuringFailed(state, { payload }: PayloadAction<string>) {
      state.error = payload
    },
  },
})

export const {
  measuringStarted,
  measuringCleared,
  stagesMeasured,
  outputsMeasured,
  bandsMeasured,
  savedMeasured,
  bypassMeasured,
  timed,
  measuringFailed,
} = measures.actions
export const measuresReducer = measures.reducer

/** An output as a whole, once every figure of it belongs to the preset as it stands. */
export type WholeOutput = OutputLevels & { readonly thirdOctave: OutputMeasures['thirdOctave'] | null }
export const wholeOutput = (entry: SnapshotMeasures | undefined): WholeOutput | null =>
  entry?.fresh && entry.output ? { ...entry.output, thirdOctave: entry.bands } : null

/** True peaks of the snapshots that are measured, dBTP by id: another object only when one of them moved, not with every stage's figures. */
export const truePeaks = createSelector(
  [(state: { readonly measures: MeasuresState }) => state.measures.snapshots],
  (snapshots): Readonly<Record<string, number | null | undefined>> =>
    Object.fromEntries(Object.entries(snapshots).map(([id, m]) => [id, m.fresh ? m.output?.truePeakDbtp : null])),
  { memoizeOptions: { resultEqualityCheck: shallowEqual } },
)
