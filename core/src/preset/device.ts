import { MAX_CONTROLS, MAX_TARGETS } from './controls'
import { DEFAULT_SCALE, type DeviceScale } from './takes'

/** How much of everything the player's device holds. */
export interface DeviceCapacity {
  /** Foot switches of one face of the board. */
  readonly switches: number
  /** Banks of a page. */
  readonly banks: number
  /** Whether a switch can do something else when it is held, or pressed twice. */
  readonly hold: boolean
  readonly double: boolean
  readonly pedals: number
  readonly sources: number
  readonly assignments: number
  readonly snapshots: number
}

/** The player's device: how its level control is marked, and what it holds. */
export interface DeviceProfile extends DeviceScale {
  readonly capacity?: DeviceCapacity
}

export const CAPACITY_RANGES = {
  switches: [2, 12],
  banks: [1, 8],
  pedals: [0, 4],
  sources: [1, MAX_CONTROLS],
  assignments: [1, MAX_TARGETS],
  snapshots: [1, 8],
} as const satisfies Partial<Record<keyof DeviceCapacity, readonly [number, number]>>

export type CapacityCount = keyof typeof CAPACITY_RANGES

/** Sizes to begin with; each number can be changed. */
export const CAPACITIES: readonly { readonly name: string; readonly capacity: DeviceCapacity }[] = [
  { name: 'Small floor unit', capacity: { switches: 3, banks: 4, hold: true, double: false, pedals: 1, sources: 6, assignments: 16, snapshots: 4 } }, // prettier-ignore
  { name: 'Floor unit', capacity: { switches: 8, banks: 2, hold: true, double: false, pedals: 2, sources: 16, assignments: 64, snapshots: 8 } }, // prettier-ignore
  { name: 'Large floor unit', capacity: { switches: 12, banks: 4, hold: true, double: true, pedals: 4, sources: 24, assignments: 64, snapshots: 8 } }, // prettier-ignore
  { name: 'Plugin with a MIDI board', capacity: { switches: 6, banks: 4, hold: true, double: true, pedals: 2, sources: 24, assignments: 64, snapshots: 8 } }, // prettier-ignore
]

const FLOOR_UNIT = CAPACITIES[1].capacity

export const capacityOf = (device: DeviceProfile | undefined): DeviceCapacity => device?.capacity ?? FLOOR_UNIT
export const deviceOf = (device: DeviceProfile | undefined): DeviceProfile => device ?? DEFAULT_SCALE
