import { readShow, type Show } from '@fulgor/core/show'
import { api } from '../api/api'
import { fetchShow } from './fetched'
import type { KitSource } from './kitEditing'
import { store } from './store'

/** Shows and sessions on the server. */
export const showSource: KitSource<Show> = {
  kind: 'show',
  fetch: (id) => fetchShow(store.dispatch, id),
  store: (id, request) => store.dispatch(api.endpoints.updateShow.initiate({ id, ...request })).unwrap(),
  read: readShow,
}
