import { readRecording, type Recording } from '@fulgor/core/recording'
import { api } from '../api/api'
import { fetchRecording } from './fetched'
import type { KitSource } from './kitEditing'
import { store } from './store'

/** Riffs and backings on the server. */
export const recordingSource: KitSource<Recording> = {
  kind: 'recording',
  fetch: (id) => fetchRecording(store.dispatch, id),
  store: (id, request) => store.dispatch(api.endpoints.updateRecording.initiate({ id, ...request })).unwrap(),
  read: readRecording,
}
