import {
  constant,
  DocumentError,
  migrated,
  readWith,
  record,
  refined,
  schemaOf,
  text,
  type Json,
  type RecordOf,
} from '@fulgor/core/document'
import { capacityField, deviceFields, type DeviceProfile } from './description'
import { capacityOf } from './device'

export const DEVICE_FORMAT = 'fulgor.device'
export const DEVICE_VERSION = 1

const { kit: _, ...profileFields } = deviceFields
const documentRecord = record({
  format: constant(DEVICE_FORMAT),
  version: constant(DEVICE_VERSION),
  notes: text(10_000, { least: 0 }),
  ...profileFields,
  capacity: capacityField,
})

/** A device as it lies in the Kit. */
export type DeviceDocument = RecordOf<typeof documentRecord.fields>

const deviceDocumentField = refined(documentRecord, ({ min, max }, path) => {
  if (!(max > min)) throw new DocumentError(path === '' ? 'max' : `${path}.max`, 'must lie above the lowest mark.')
})

/** @throws DocumentError naming the field and the reason */
export const readDevice = (value: unknown): DeviceDocument => {
  const { $schema: _schema, ...document } = migrated(value, DEVICE_FORMAT, 'device', [])
  return readWith(deviceDocumentField, document)
}

export const deviceSchema = (): Json =>
  schemaOf(deviceDocumentField, { $id: `urn:fulgor:device:${DEVICE_VERSION}`, title: 'Fulgor device' })

/** A device for the Kit, of what a preset says of it. */
export const asDevice = ({ kit: _kit, ...profile }: DeviceProfile, notes = ''): DeviceDocument => ({
  format: DEVICE_FORMAT,
  version: DEVICE_VERSION,
  notes,
  ...profile,
  capacity: capacityOf(profile),
})

/** The device of a document as a preset keeps it. */
export function deviceProfile({ format: _f, version: _v, notes: _n, ...profile }: DeviceDocument, kit: string): DeviceProfile {
  return { ...profile, kit }
}
