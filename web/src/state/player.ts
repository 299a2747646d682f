import { createSlice, type PayloadAction } from '@reduxjs/toolkit'

export interface PlayerState {
  playing: boolean
  loop: boolean
  /** A: the sheet as it stands; B: the last saved version. */
  side: 'A' | 'B'
  /** Both sides summed, as in a mono house. */
  mono: boolean
  error: string | null
}

const initialState: PlayerState = { playing: false, loop: true, side: 'A', mono: false, error: null }

const player = createSlice({
  name: 'player',
  initialState,
  reducers: {
    playingChanged(state, { payload }: PayloadAction<boolean>) {
      state.playing = payload
      if (payload) state.error = null
    },
    loopChanged(state, { payload }: PayloadAction<boolean>) {
      state.loop = payload
    },
    sideChosen(state, { payload }: PayloadAction<'A' | 'B'>) {
      state.side = payload
    },
    monoChanged(state, { payload }: PayloadAction<boolean>) {
      state.mono = payload
    },
    playerFailed(state, { payload }: PayloadAction<string>) {
      state.error = payload
      state.playing = false
    },
  },
})

export const { playingChanged, loopChanged, sideChosen, monoChanged, playerFailed } = player.actions
export const playerReducer = player.reducer
