import { createSlice, original, type Draft, type PayloadAction } from '@reduxjs/toolkit'
import { castDraft } from 'immer'
import type { SavedVersion, StoredPreset } from '@fulgor/core/api'
import {
  commit,
  createHistory,
  findSnapshot,
  findStage,
  redo,
  resumed,
  stagesOf,
  undo,
  type Edit,
  type History,
  type Preset,
  type Reach,
} from '@fulgor/core/preset'
import { nothingOpen, type EditorState, type SyncStatus } from './editorState'
import { reducer } from './reducer'

/** After an edit or undo, what is selected must still be there. */
function keepSelection(state: Draft<EditorState>): void {
  const preset = state.history?.present
  if (!preset) return
  if (!findSnapshot(preset, state.snapshot)) state.snapshot = preset.snapshots[0].id
  if (!state.stage || !findStage(preset, state.stage)) state.stage = stagesOf(preset.chain)[0]?.id ?? null
}

function travel(state: Draft<EditorState>, move: (history: History) => History): void {
  const before = (original(state) as unknown as EditorState).history
  if (!before) return
  const after = move(before)
  if (after === before) return
  state.history = castDraft(after)
  if (after.present !== before.present && state.sync.status !== 'conflict') state.sync.status = 'waiting'
  keepSelection(state)
}

const editor = createSlice({
  name: 'editor',
  initialState: nothingOpen,
  reducers: {
    opened(
      _state,
      { payload }: PayloadAction<{ stored: StoredPreset; pending: Preset | null; snapshot: string | null; kept?: History | null }>,
    ) {
      const { stored, pending, snapshot, kept } = payload
      const fresh = createHistory(stored.document)
      return castDraft({
        ...nothingOpen,
        id: stored.id,
        // edits that an earlier session could not send are one undoable step on what the server holds
        history: kept
          ? resumed(kept, pending ?? stored.document)
          : pending
            ? commit(fresh, { type: 'replace', preset: pending }, 0)
            : fresh,
        snapshot: findSnapshot(stored.document, snapshot)?.id ?? stored.document.snapshots[0].id,
        stage: (stagesOf(stored.document.chain).find((s) => s.model.startsWith('amp.')) ?? stagesOf(stored.document.chain)[0])?.id ?? null,
        revision: stored.revision,
        saved: stored.saved,
        sync: { status: pending ? ('waiting' as const) : ('saved' as const), message: '', at: stored.updatedAt },
      })
    },
    closed: () => nothingOpen,
    edited(state, { payload }: PayloadAction<{ edit: Edit; at: number }>) {
      travel(state, (history) => commit(history, payload.edit, payload.at))
    },
    undone(state) {
      travel(state, undo)
    },
    redone(state) {
      travel(state, redo)
    },
    snapshotChosen(state, { payload }: PayloadAction<string>) {
      state.snapshot = payload
      state.reach = 'own'
    },
    /** A stage by its name, or by its cell in a snapshot, which is lit then. A new one is as new in every snapshot. */
    stageChosen(state, { payload }: PayloadAction<{ stage: string; snapshot?: string; fresh?: boolean }>) {
      state.stage = payload.stage
      state.panel = 'stage'
      state.column = payload.snapshot === undefined ? 'name' : 'snapshot'
      if (payload.fresh) state.reach = 'shared'
      if (payload.snapshot === undefined) return
      state.snapshot = payload.snapshot
      state.reach = 'own'
    },
    reachChosen(state, { payload }: PayloadAction<Reach>) {
      state.reach = payload
    },
    pointedAt(state, { payload }: PayloadAction<string | null>) {
      state.pointed = payload
    },
    panelChosen(state, { payload }: PayloadAction<EditorState['panel']>) {
      state.panel = payload
    },
    syncChanged(state, { payload }: PayloadAction<{ status: SyncStatus; message?: string; at?: number; revision?: number }>) {
      state.sync.status = payload.status
      state.sync.message = payload.message ?? ''
      if (payload.at !== undefined) state.sync.at = payload.at
      if (payload.revision !== undefined) state.revision = payload.revision
    },
    versionSaved(state, { payload }: PayloadAction<SavedVersion>) {
      state.saved = castDraft(payload)
    },
    conflictFound(state, { payload }: PayloadAction<{ revision: number; document: Preset }>) {
      state.conflict = castDraft(payload)
      state.sync.status = 'conflict'
    },
    /** The other side's document comes in as an undoable step; or mine goes on top of its revision. */
    conflictSettled(state, { payload }: PayloadAction<{ take: 'theirs' | 'mine' }>) {
      const conflict = (original(state) as unknown as EditorState).conflict
      if (!conflict) return
      state.conflict = null
      state.revision = conflict.revision
      state.sync.status = 'waiting'
      if (payload.take === 'theirs') {
        travel(state, (history) => commit(history, { type: 'replace', preset: conflict.document }, 0))
        state.sync.status = 'saved'
      }
    },
    /** Another tab stored a newer revision while nothing was unsaved here. */
    refreshed(state, { payload }: PayloadAction<StoredPreset>) {
      travel(state, (history) => commit(history, { type: 'replace', preset: payload.document }, 0))
      state.revision = payload.revision
      state.saved = castDraft(payload.saved)
      state.sync = { status: 'saved', message: '', at: payload.updatedAt }
    },
  },
})

export const {
  opened,
  closed,
  edited,
  undone,
  redone,
  snapshotChosen,
  stageChosen,
  reachChosen,
  pointedAt,
  panelChosen,
  syncChanged,
  versionSaved,
  conflictFound,
  conflictSettled,
  refreshed,
} = editor.actions

// a page without a preset needs nothing of what edits one: this is fetched with the first view that does
reducer.inject({ reducerPath: 'editor', reducer: editor.reducer }, { overrideExisting: true })
