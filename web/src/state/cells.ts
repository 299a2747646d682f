import { createSlice, type PayloadAction } from '@reduxjs/toolkit'
import { castDraft } from 'immer'
import { modelOf } from '@fulgor/core/catalogue'
import { copyCells, partsOf, pastePlaces, PresetError, readCells, type CellBlock, type Edit, type Preset } from '@fulgor/core/preset'
import { edit, presentPreset } from './actions'
import { notified } from './notices'
import type { RootState, Thunk } from './store'

/** One cell of the matrix. */
export interface Cell {
  readonly stage: string
  readonly snapshot: string
}

interface CellsState {
  /** Two opposite corners of what is selected; null while it is one cell. */
  range: { readonly from: Cell; readonly to: Cell } | null
  /** What was copied last; it outlives the preset that it comes from. */
  block: CellBlock | null
}

const initialState: CellsState = { range: null, block: null }

const cells = createSlice({
  name: 'cells',
  initialState,
  reducers: {
    rangeChosen(state, { payload }: PayloadAction<CellsState['range']>) {
      state.range = payload
    },
    copied(state, { payload }: PayloadAction<CellBlock>) {
      state.block = castDraft(payload)
    },
  },
})
export const { rangeChosen, copied } = cells.actions
export const cellsReducer = cells.reducer

/** Stages and snapshots, each in the order of the sheet. */
export interface Picked {
  readonly stages: readonly string[]
  readonly snapshots: readonly string[]
}

/** What lies between two corners; null when one of them is no longer there. */
export function between(preset: Preset, range: CellsState['range']): Picked | null {
  if (!range) return null
  const stretch = (ids: readonly string[], a: string, b: string) => {
    const [from, to] = [ids.indexOf(a), ids.indexOf(b)].sort((x, y) => x - y)
    return from < 0 ? null : ids.slice(from, to + 1)
  }
  const stages = stretch(partsOf(preset.chain).map((s) => s.id), range.from.stage, range.to.stage) // prettier-ignore
  const snapshots = stretch(preset.snapshots.map((s) => s.id), range.from.snapshot, range.to.snapshot) // prettier-ignore
  return stages && snapshots ? { stages, snapshots } : null
}

/** The range, or else the one cell that is edited; its snapshot is null in the base. */
function picked(state: RootState): { stages: readonly string[]; snapshots: readonly (string | null)[] } | null {
  const preset = presentPreset(state)
  if (!preset) return null
  const range = between(preset, state.cells.range)
  if (range) return range
  const { stage } = state.editor
  return stage === null ? null : { stages: [stage], snapshots: [state.editor.column === 'snapshot' ? state.editor.snapshot : null] }
}

/** Copies what is selected, or these stages and snapshots. @returns the text for the system's clipboard */
export const copy =
  (what?: Picked): Thunk<string | null> =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    const chosen = what ?? picked(getState())
    if (!preset || !chosen) return null
    const block = copyCells(preset, chosen.stages, chosen.snapshots)
    dispatch(copied(block))
    return JSON.stringify(block)
  }

/**
 * Pastes what was copied last onto the selection, from its first row on down.
 * @param text what the system's clipboard holds, if it is asked
 * @param onto these snapshots from the top row on, instead of the selection
 */
export const paste =
  (text: string | null, onto?: readonly string[]): Thunk =>
  (dispatch, getState) => {
    const state = getState()
    const preset = presentPreset(state)
    const chosen = picked(state)
    if (!preset || !chosen) return
    const warn = (words: string) => dispatch(notified({ kind: 'warning', text: words }))
    try {
      const block = text === null ? state.cells.block : readCells(text)
      if (!block) return void warn('Nothing was copied yet.')
      const stage = onto ? partsOf(preset.chain)[0]?.id : chosen.stages[0]
      const width = block.rows[0].cells.length
      const targets = onto ?? chosen.snapshots.filter((s) => s !== null)
      if (!stage || targets.length === 0) return void warn('Paste goes onto snapshots: choose a cell of one, not the base.')
      const first = preset.snapshots.findIndex((s) => s.id === targets[0])
      // one cell chosen takes the whole width of what was copied
      const snapshots = targets.length === 1 ? preset.snapshots.slice(first, first + width).map((s) => s.id) : targets
      const missed = pastePlaces(preset, block, stage).flatMap((place, r) => (place ? [] : [modelOf(block.rows[r].model).name]))
      dispatch(edit({ type: 'pasteCells', block, stage, snapshots }))
      if (missed.length > 0)
        dispatch(notified({ kind: 'note', text: `Pasted; there was no place below for ${[...new Set(missed)].join(', ')}.` }))
    } catch (error) {
      if (!(error instanceof RangeError) && !(error instanceof PresetError)) throw error
      warn(error.message)
    }
  }

/** What can be done to a range, each as one step of undo. */
export const rangeEdits = {
  fill: ({ stages, snapshots }: Picked): Edit => ({ type: 'fillCells', stages, from: snapshots[0], to: snapshots.slice(1) }),
  swap: ({ stages, snapshots }: Picked): Edit => ({ type: 'swapCells', stages, a: snapshots[0], b: snapshots[1] }),
  reset: ({ stages, snapshots }: Picked): Edit => ({
    type: 'all',
    edits: stages.flatMap((stage) => snapshots.map((snapshot) => ({ type: 'resetCell', stage, snapshot }) as const)),
  }),
  toBase: ({ stages, snapshots }: Picked): Edit => ({
    type: 'all',
    edits: stages.map((stage) => ({ type: 'cellToBase', stage, snapshot: snapshots[0] }) as const),
  }),
}
