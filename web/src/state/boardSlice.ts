import { createSlice, type PayloadAction } from '@reduxjs/toolkit'
import type { BoardPage } from '@fulgor/core/preset'

/** The foot controller as it is played: nothing of it is stored. */
interface BoardState {
  page: BoardPage
  bank: number
  /** Stages that were switched over by foot since the snapshot was loaded. */
  toggled: Readonly<Record<string, boolean>>
  tuner: boolean
  /** Switches that a foot is on. */
  down: readonly string[]
  /** Steps along the shelf that a switch has asked for; 0: none. */
  presetStep: number
}

const initialState: BoardState = { page: 'snapshots', bank: 0, toggled: {}, tuner: false, down: [], presetStep: 0 }

const board = createSlice({
  name: 'board',
  initialState,
  reducers: {
    faceShown(state, { payload }: PayloadAction<{ page: BoardPage; bank: number }>) {
      state.page = payload.page
      state.bank = payload.bank
    },
    /** null: all are as stored. */
    stagesToggled(state, { payload }: PayloadAction<BoardState['toggled'] | null>) {
      if (payload === null && Object.keys(state.toggled).length === 0) return
      state.toggled = payload === null ? {} : { ...state.toggled, ...payload }
    },
    tunerSet(state, { payload }: PayloadAction<boolean>) {
      state.tuner = payload
    },
    footChanged(state, { payload: { id, down } }: PayloadAction<{ id: string; down: boolean }>) {
      state.down = down ? [...state.down.filter((d) => d !== id), id] : state.down.filter((d) => d !== id)
    },
    presetStepped(state, { payload }: PayloadAction<number>) {
      state.presetStep = payload
    },
    boardOpened: (_state, { payload }: PayloadAction<BoardPage>) => ({ ...initialState, page: payload }),
  },
})

export const { faceShown, stagesToggled, tunerSet, footChanged, presetStepped, boardOpened } = board.actions
export const boardReducer = board.reducer
