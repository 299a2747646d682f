import type { Family } from '@fulgor/core/catalogue'
import type { DeviceCapacity, DeviceProfile } from './description'
import { DEFAULT_SCALE } from './takes'

/** Of what a device holds some. */
export type CapacityCount = Exclude<keyof DeviceCapacity, 'hold' | 'double' | 'both' | 'processing'>

/** Sizes to begin with; each number can be changed. */
export const CAPACITIES: readonly { readonly name: string; readonly capacity: DeviceCapacity }[] = [
  {
    name: 'Small floor unit',
    capacity: { switches: 3, banks: 4, hold: true, double: false, pedals: 1, sources: 6, assignments: 16, snapshots: 4 },
  },
  {
    name: 'Floor unit',
    capacity: { switches: 8, banks: 2, hold: true, double: false, pedals: 2, sources: 16, assignments: 64, snapshots: 8 },
  },
  {
    name: 'Large floor unit',
    capacity: { switches: 12, banks: 4, hold: true, double: true, both: true, pedals: 4, sources: 24, assignments: 64, snapshots: 8 },
  },
  {
    name: 'Plugin with a MIDI board',
    capacity: { switches: 6, banks: 4, hold: true, double: true, pedals: 2, sources: 24, assignments: 64, snapshots: 8 },
  },
]

const FLOOR_UNIT = CAPACITIES[1].capacity

/** % of the device's processing that a stage of a family takes; null: the player has not told. */
export const processingOf = ({ processing }: DeviceCapacity, family: Family): number | null =>
  processing?.find((p) => p.family === family)?.percent ?? null

export const capacityOf = (device: DeviceProfile | undefined): DeviceCapacity => device?.capacity ?? FLOOR_UNIT
export const deviceOf = (device: DeviceProfile | undefined): DeviceProfile => device ?? DEFAULT_SCALE
