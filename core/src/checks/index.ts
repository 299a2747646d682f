import type { Preset } from '@fulgor/core/preset'
import { cabinetIntoCabinet } from './cabinetIntoCabinet'
import { deviceCapacity } from './deviceCapacity'
import type { Check, Finding } from './finding'
import { heldBySource } from './heldBySource'
import { idleControl } from './idleControl'
import { latePress } from './latePress'
import { liveAtMaximum } from './liveAtMaximum'
import { midiClash } from './midiClash'
import { missingCabinet } from './missingCabinet'
import { movedSyncedTime } from './movedSyncedTime'
import { movedTwice } from './movedTwice'
import { outOfReach } from './outOfReach'
import { storedUnderSource } from './storedUnderSource'
import { twoCabinets } from './twoCabinets'

export type { Check, Finding } from './finding'
export { overCeiling, type OutputPeaks } from './overCeiling'

/** Every rule, in the order in which findings are told. */
export const checks: readonly Check[] = [
  twoCabinets,
  missingCabinet,
  cabinetIntoCabinet,
  movedTwice,
  movedSyncedTime,
  storedUnderSource,
  liveAtMaximum,
  heldBySource,
  deviceCapacity,
  outOfReach,
  idleControl,
  latePress,
  midiClash,
]

/** Everything that the rules find in a preset. */
export const checkPreset = (preset: Preset, newId: () => string): Finding[] => checks.flatMap((check) => check.find(preset, newId))
