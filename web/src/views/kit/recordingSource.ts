import { readRecording, type Recording } from '@fulgor/core/recording'
import { api } from '../../api/api'
import { fetchRecording } from '../../state/fetched'
import type { KitSource } from '../../state/kitEditing'
import { store } from '../../state/store'

/** Riffs and backings on the server. */
export const recordingSource: KitSource<Recording> = {
  kind: 'recording',
  fetch: (id) => fetchRecording(store.dispatch, id),
  store: (id, request) => store.dispatch(api.endpoints.updateRecording.initiate({ id, ...request })).unwrap(),
  read: readRecording,
}
