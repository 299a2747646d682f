import { combineReducers, configureStore, createListenerMiddleware, isAnyOf } from '@reduxjs/toolkit'
import { useDispatch, useSelector, useStore } from 'react-redux'
import { api } from '../api/api'
import { boardReducer } from './boardSlice'
import { cellsReducer } from './cells'
import { connectionReducer } from '../api/connection'
import { controlsReducer } from './controls'
import { editorReducer } from './editor'
import { measuresReducer } from './measures'
import { noticesReducer } from './notices'
import { keepPlayer, liveChanged, playerReducer, qualityChosen } from './player'
import { readingsReducer } from './readings'
import { shelfReducer } from './shelf'

const reducer = combineReducers({
  [api.reducerPath]: api.reducer,
  board: boardReducer,
  cells: cellsReducer,
  connection: connectionReducer,
  controls: controlsReducer,
  editor: editorReducer,
  measures: measuresReducer,
  player: playerReducer,
  notices: noticesReducer,
  readings: readingsReducer,
  shelf: shelfReducer,
})

/** Where everything that the page knows is kept, and the way to hear what becomes of it. */
export function createStore() {
  const listeners = createListenerMiddleware<RootState>()
  const store = configureStore({
    reducer,
    middleware: (standard) =>
      standard({ serializableCheck: false, immutableCheck: false }).prepend(listeners.middleware).concat(api.middleware),
  })
  const listen = listeners.startListening.withTypes<RootState, typeof store.dispatch>()
  listen({ matcher: isAnyOf(qualityChosen, liveChanged), effect: (_, page) => keepPlayer(page.getState().player) })
  return { store, listen }
}

export const { store, listen } = createStore()

export type Store = typeof store
/** Hears what happens in the store, for what lives beside it. */
export type Listening = typeof listen
export type RootState = ReturnType<typeof reducer>
export type AppDispatch = typeof store.dispatch
export type Thunk<T = void> = (dispatch: AppDispatch, getState: () => RootState) => T

export const useAppDispatch = useDispatch.withTypes<AppDispatch>()
export const useAppSelector = useSelector.withTypes<RootState>()
export const useAppStore = useStore.withTypes<Store>()
