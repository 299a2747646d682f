import { readPlace, type Place } from '@fulgor/core/place'
import { api } from '../../api/api'
import { fetchPlace } from '../../state/fetched'
import type { KitSource } from '../../state/kitEditing'
import { store } from '../../state/store'

/** Listening places on the server. */
export const placeSource: KitSource<Place> = {
  kind: 'place',
  fetch: (id) => fetchPlace(store.dispatch, id),
  store: (id, request) => store.dispatch(api.endpoints.updatePlace.initiate({ id, ...request })).unwrap(),
  read: readPlace,
}
