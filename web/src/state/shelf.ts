import { createSlice, type PayloadAction } from '@reduxjs/toolkit'
import type { Preset } from '@fulgor/core/preset'
import { api, sentenceOf } from '../api/api'
import { notified } from './notices'
import { tellTabs } from './tabs'
import type { Thunk } from './store'

/** Something that was done to the shelf and can be taken back: what was added goes into the bin, what was removed comes out of it. */
interface ShelfStep {
  readonly did: 'added' | 'removed'
  readonly id: string
  readonly name: string
}

interface ShelfState {
  past: ShelfStep[]
  future: ShelfStep[]
}

const KEPT = 100
const initialState: ShelfState = { past: [], future: [] }

const shelf = createSlice({
  name: 'shelf',
  initialState,
  reducers: {
    done(state, { payload }: PayloadAction<ShelfStep>) {
      state.past = [...state.past, payload].slice(-KEPT)
      state.future = []
    },
    takenBack(state) {
      const step = state.past.pop()
      if (step) state.future.push(step)
    },
    doneAgain(state) {
      const step = state.future.pop()
      if (step) state.past.push(step)
    },
  },
})
export const { done, takenBack, doneAgain } = shelf.actions
export const shelfReducer = shelf.reducer

const warn = (error: unknown) => notified({ kind: 'warning', text: sentenceOf(error) })

/** @returns the new preset's id, null when it was refused: the player is told why */
export const addPreset =
  (document: Preset): Thunk<Promise<{ id: string; name: string } | { error: unknown }>> =>
  async (dispatch) => {
    const { data, error } = await dispatch(api.endpoints.createPreset.initiate(document))
    if (!data) return { error }
    dispatch(done({ did: 'added', id: data.id, name: data.name }))
    return { id: data.id, name: data.name }
  }

export const binPreset =
  (id: string, name: string): Thunk<Promise<void>> =>
  async (dispatch) => {
    const { error } = await dispatch(api.endpoints.deletePreset.initiate(id))
    if (error) {
      dispatch(warn(error))
      return
    }
    dispatch(done({ did: 'removed', id, name }))
    tellTabs({ id, gone: true })
    dispatch(notified({ kind: 'note', text: `“${name}” lies in the bin.${await dispatch(playedWords(id))}`, undo: { type: 'shelf' } }))
  }

/** Which shows play a preset, as a sentence behind another one; empty where none does, or where that cannot be asked. */
const playedWords =
  (id: string): Thunk<Promise<string>> =>
  async (dispatch) => {
    const asked = dispatch(api.endpoints.shows.initiate({ uses: id, sort: 'name', limit: 3 }, { forceRefetch: true }))
    const { data } = await asked
    asked.unsubscribe()
    if (!data || data.total === 0) return ''
    const names = data.items.map((s) => `“${s.name}”`).join(', ')
    const more = data.total > data.items.length ? ` and ${data.total - data.items.length} more` : ''
    return ` ${names}${more} ${data.total === 1 ? 'plays' : 'play'} it: those parts are silent until it is back.`
  }

/** Out of the bin, back onto the shelf. */
export const bringBack =
  (id: string, name: string): Thunk<Promise<void>> =>
  async (dispatch) => {
    const { error } = await dispatch(api.endpoints.restorePreset.initiate(id))
    if (error) {
      dispatch(warn(error))
      return
    }
    dispatch(done({ did: 'added', id, name }))
    dispatch(notified({ kind: 'note', text: `“${name}” is back on the shelf.` }))
  }

const move =
  ({ id, name }: ShelfStep, to: 'shelf' | 'bin'): Thunk<Promise<boolean>> =>
  async (dispatch) => {
    const { endpoints } = api
    const { error } = await (to === 'bin' ? dispatch(endpoints.deletePreset.initiate(id)) : dispatch(endpoints.restorePreset.initiate(id)))
    dispatch(
      error
        ? warn(error)
        : notified({ kind: 'note', text: to === 'bin' ? `“${name}” lies in the bin.` : `“${name}” is back on the shelf.` }),
    )
    if (!error && to === 'bin') tellTabs({ id, gone: true })
    return !error
  }

export const undoShelf = (): Thunk<Promise<void>> => async (dispatch, getState) => {
  const step = getState().shelf.past.at(-1)
  if (step && (await dispatch(move(step, step.did === 'added' ? 'bin' : 'shelf')))) dispatch(takenBack())
}

export const redoShelf = (): Thunk<Promise<void>> => async (dispatch, getState) => {
  const step = getState().shelf.future.at(-1)
  if (step && (await dispatch(move(step, step.did === 'added' ? 'shelf' : 'bin')))) dispatch(doneAgain())
}
