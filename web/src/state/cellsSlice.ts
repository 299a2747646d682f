import { createSlice, type PayloadAction } from '@reduxjs/toolkit'
import { castDraft } from 'immer'
import type { CellBlock, StageBlock } from '@fulgor/core/preset'

/** One cell of the matrix; without a snapshot the row itself, in the column of names. */
export interface Cell {
  readonly stage: string
  readonly snapshot: string | null
}

/** From the cell that has the focus to the far corner. */
export interface Range {
  readonly from: Cell
  readonly to: Cell
}

interface CellsState {
  /** Two opposite corners of what is selected; null while it is one cell. */
  range: Range | null
  /** What was copied last; it outlives the preset that it comes from. */
  block: CellBlock | StageBlock | null
}

const initialState: CellsState = { range: null, block: null }

const cells = createSlice({
  name: 'cells',
  initialState,
  reducers: {
    rangeChosen(state, { payload }: PayloadAction<Range | null>) {
      state.range = payload
    },
    copied(state, { payload }: PayloadAction<CellBlock | StageBlock>) {
      state.block = castDraft(payload)
    },
  },
})
export const { rangeChosen, copied } = cells.actions
export const cellsReducer = cells.reducer
