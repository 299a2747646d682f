import { readPlace, type Place } from '@fulgor/core/place'
import { api } from '../../api/api'
import type { KitSource } from '../../state/kitEditing'
import { store } from '../../state/store'

/** Listening places on the server. */
export const placeSource: KitSource<Place> = {
  kind: 'place',
  fetch: (id) => store.dispatch(api.endpoints.place.initiate(id, { subscribe: false, forceRefetch: true })).unwrap(),
  store: (id, request) => store.dispatch(api.endpoints.updatePlace.initiate({ id, ...request })).unwrap(),
  read: readPlace,
}
