import { configureStore, createListenerMiddleware, isAnyOf } from '@reduxjs/toolkit'
import { useDispatch, useSelector, useStore } from 'react-redux'
import { api } from '../api/api'
import { keepPlayer, liveChanged, qualityChosen } from './player'
import { reducer } from './reducer'

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
