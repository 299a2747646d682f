import { readGuitar, type GuitarDocument } from '@fulgor/core/guitar'
import { api } from '../../api/api'
import { fetchGuitar } from '../../state/fetched'
import type { KitSource } from '../../state/kitEditing'
import { store } from '../../state/store'

/** Guitars on the server. */
export const guitarSource: KitSource<GuitarDocument> = {
  kind: 'guitar',
  fetch: (id) => fetchGuitar(store.dispatch, id),
  store: (id, request) => store.dispatch(api.endpoints.updateGuitar.initiate({ id, ...request })).unwrap(),
  read: readGuitar,
}
