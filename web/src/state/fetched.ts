import { api } from '../api/api'
import type { AppDispatch } from './store'

/** More of one kind than a player has. */
export const ALL_OF_THEM = { sort: 'name', limit: 500 } as const

/** One answer, asked for now. Held until it is here: an entry that nobody waits for is dropped while it is on its way. */
async function held<R>(asked: { unwrap(): Promise<R>; unsubscribe(): void }): Promise<R> {
  try {
    return await asked.unwrap()
  } finally {
    asked.unsubscribe()
  }
}

/** @throws what the request failed with */
export const fetchGuitar = (dispatch: AppDispatch, id: string) => held(dispatch(api.endpoints.guitar.initiate(id, { forceRefetch: true })))
/** @throws what the request failed with */
export const fetchPlace = (dispatch: AppDispatch, id: string) => held(dispatch(api.endpoints.place.initiate(id, { forceRefetch: true })))
/** @throws what the request failed with */
export const fetchRecording = (dispatch: AppDispatch, id: string) =>
  held(dispatch(api.endpoints.recording.initiate(id, { forceRefetch: true })))
/** @throws what the request failed with */
export const fetchDevice = (dispatch: AppDispatch, id: string) => held(dispatch(api.endpoints.device.initiate(id, { forceRefetch: true })))
/** @throws what the request failed with */
export const fetchShow = (dispatch: AppDispatch, id: string) => held(dispatch(api.endpoints.show.initiate(id, { forceRefetch: true })))
/** @throws what the request failed with */
export const fetchPreset = (dispatch: AppDispatch, id: string) => held(dispatch(api.endpoints.preset.initiate(id, { forceRefetch: true })))
/** Riffs and backings as they are now. @throws what the request failed with */
export const fetchRecordings = (dispatch: AppDispatch) =>
  held(dispatch(api.endpoints.recordings.initiate(ALL_OF_THEM, { forceRefetch: true })))
/** The library's responses as they are now. @throws what the request failed with */
export const fetchResponses = (dispatch: AppDispatch) => held(dispatch(api.endpoints.responses.initiate(undefined, { forceRefetch: true })))
