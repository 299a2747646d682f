import { readDevice, type DeviceDocument } from '@fulgor/core/preset'
import { api } from '../../api/api'
import { fetchDevice } from '../../state/fetched'
import type { KitSource } from '../../state/kitEditing'
import { store } from '../../state/store'

/** Devices on the server. */
export const deviceSource: KitSource<DeviceDocument> = {
  kind: 'device',
  fetch: (id) => fetchDevice(store.dispatch, id),
  store: (id, request) => store.dispatch(api.endpoints.updateDevice.initiate({ id, ...request })).unwrap(),
  read: readDevice,
}
