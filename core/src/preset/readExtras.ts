import { layerSpecs } from '@fulgor/core/catalogue'
import { PICKUPS, STRENGTHS, TUNINGS, type PickupKind } from '@fulgor/core/riffs'
import { array, flag, noOthers, numberIn, object, oneOf, PresetError, readId, readValues, text, wholeIn } from './fields'
import { createLayer, MAX_LAYERS, MAX_RIFF_TAKES, type Layer } from './layers'
import type { RiffChoice } from './preset'
import { FILE_PATTERN } from './readBench'
import { readCapacity } from './readBoard'
import type { DeviceProfile } from './device'
import { MAX_TAKES, SCALE_KINDS, type Take } from './takes'

/** A shipped riff's id or a SHA-256. */
export const RIFF_PATTERN = '^[a-z0-9-]{1,64}$'
export const DATE_PATTERN = '^\\d{4}-\\d{2}-\\d{2}$'
/** Ranges of what the player says of a device. */
export const DEVICE_LIMITS = { name: 60, note: 500, mark: [-1_000, 1_000], stepDb: [0.01, 20] } as const

const riffPattern = new RegExp(RIFF_PATTERN)
const filePattern = new RegExp(FILE_PATTERN)
const datePattern = new RegExp(DATE_PATTERN)

const PICKUP_KINDS = PICKUPS.map((p) => p.id)
export const readPickup = (value: unknown, path: string): PickupKind => oneOf(value, path, PICKUP_KINDS)

export function readRiff(value: unknown, path: string): RiffChoice {
  const riff = object(value, path)
  noOthers(riff, path, ['id', 'strength', 'take', 'pickup', 'tuning'])
  if (typeof riff.id !== 'string' || !riffPattern.test(riff.id)) throw new PresetError(`${path}.id`, 'must name a riff.')
  return {
    id: riff.id,
    strength: oneOf(riff.strength, `${path}.strength`, STRENGTHS),
    ...(riff.take === undefined ? {} : { take: wholeIn(riff.take, `${path}.take`, [1, MAX_RIFF_TAKES]) }),
    ...(riff.pickup === undefined ? {} : { pickup: readPickup(riff.pickup, `${path}.pickup`) }),
    ...(riff.tuning === undefined ? {} : { tuning: oneOf(riff.tuning, `${path}.tuning`, TUNINGS.map((t) => t.id)) }), // prettier-ignore
  }
}

export const readTakes = (value: unknown, path: string): readonly Take[] => {
  const ids = new Set<string>()
  return array(value, path, MAX_TAKES).map((take, i) => readTake(take, `${path}[${i}]`, ids))
}

function readTake(value: unknown, path: string, ids: Set<string>): Take {
  const o = object(value, path)
  noOthers(o, path, ['id', 'file', 'device', 'date', 'note', 'setting'])
  if (typeof o.file !== 'string' || !filePattern.test(o.file)) throw new PresetError(`${path}.file`, 'must be a SHA-256 in hexadecimal.')
  if (typeof o.date !== 'string' || !datePattern.test(o.date) || Number.isNaN(Date.parse(o.date)))
    throw new PresetError(`${path}.date`, 'must be a day as YYYY-MM-DD.')
  return {
    id: readId(o.id, `${path}.id`, ids),
    file: o.file,
    device: text(o.device, `${path}.device`, DEVICE_LIMITS.name, 1),
    date: o.date,
    note: text(o.note, `${path}.note`, DEVICE_LIMITS.note, 0),
    setting: o.setting === null ? null : numberIn(o.setting, `${path}.setting`, DEVICE_LIMITS.mark),
  }
}

export function readDevice(value: unknown, path: string): DeviceProfile {
  const o = object(value, path)
  noOthers(o, path, ['name', 'kind', 'min', 'max', 'stepDb', 'capacity'])
  const kind = SCALE_KINDS.find((k) => k === o.kind)
  if (!kind) throw new PresetError(`${path}.kind`, `must be one of ${SCALE_KINDS.join(', ')}.`)
  const min = numberIn(o.min, `${path}.min`, DEVICE_LIMITS.mark)
  const max = numberIn(o.max, `${path}.max`, DEVICE_LIMITS.mark)
  if (!(max > min)) throw new PresetError(`${path}.max`, 'must lie above the lowest mark.')
  const stepDb = numberIn(o.stepDb, `${path}.stepDb`, DEVICE_LIMITS.stepDb)
  const device = { name: text(o.name, `${path}.name`, DEVICE_LIMITS.name, 1), kind, min, max, stepDb }
  return o.capacity === undefined ? device : { ...device, capacity: readCapacity(o.capacity, `${path}.capacity`) }
}

export function readLayers(value: unknown, path: string): readonly Layer[] {
  const ids = new Set<string>()
  return array(value, path, MAX_LAYERS).map((layer, i) => readLayer(layer, `${path}[${i}]`, ids))
}

function readLayer(value: unknown, path: string, ids: Set<string>): Layer {
  const { id, preset, snapshot, riff, on, ...values } = object(value, path)
  return {
    ...createLayer(
      readId(id, `${path}.id`, ids),
      preset === null ? null : text(preset, `${path}.preset`, 60, 1),
      text(snapshot, `${path}.snapshot`, 40, 1),
      readRiff(riff, `${path}.riff`),
    ),
    on: flag(on, `${path}.on`),
    ...(readValues(values, path, layerSpecs, 'layer') as Partial<Layer>),
  }
}
