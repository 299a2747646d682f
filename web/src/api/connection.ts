import { createSlice, type PayloadAction } from '@reduxjs/toolkit'

/** Whether the server answers; if not, since when what is shown was kept in this browser. */
export interface ConnectionState {
  away: boolean
  /** ms since 1970 of the oldest kept answer in sight; null where none was needed. */
  keptAt: number | null
}

const initialState: ConnectionState = { away: false, keptAt: null }

const connection = createSlice({
  name: 'connection',
  initialState,
  reducers: {
    serverAway(state, { payload }: PayloadAction<number | null>) {
      state.away = true
      if (payload !== null) state.keptAt = Math.min(state.keptAt ?? payload, payload)
    },
    serverBack: () => initialState,
  },
})
export const { serverAway, serverBack } = connection.actions
export const connectionReducer = connection.reducer
