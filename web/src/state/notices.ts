import { createSlice, nanoid, type PayloadAction } from '@reduxjs/toolkit'

/** What lies in the Kit. */
export type KitKind = 'guitar' | 'place' | 'device' | 'recording' | 'show'

/** A passing message; `undo` names what can be taken back from it. */
export interface Notice {
  id: string
  kind: 'note' | 'warning'
  text: string
  undo?:
    | { type: 'shelf' }
    | { type: 'bringBack'; id: string; name: string }
    | { type: 'restoreKit'; kind: KitKind; id: string }
    | { type: 'restoreResponses'; hashes: readonly string[] }
}

const notices = createSlice({
  name: 'notices',
  initialState: [] as Notice[],
  reducers: {
    notified: {
      reducer(state, { payload }: PayloadAction<Notice>) {
        const others = state.filter((n) => n.text !== payload.text)
        return [...others, payload].slice(-4)
      },
      prepare: (notice: Omit<Notice, 'id'>) => ({ payload: { ...notice, id: nanoid() } }),
    },
    dismissed: (state, { payload }: PayloadAction<string>) => state.filter((n) => n.id !== payload),
  },
})

export const { notified, dismissed } = notices.actions
export const noticesReducer = notices.reducer
