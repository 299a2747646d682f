import type { Preset } from '@fulgor/core/preset'
import { cabinetIntoCabinet } from './cabinetIntoCabinet'
import type { Check, Finding } from './finding'
import { liveAtMaximum } from './liveAtMaximum'
import { missingCabinet } from './missingCabinet'
import { movedSyncedTime } from './movedSyncedTime'
import { movedTwice } from './movedTwice'
import { storedUnderSource } from './storedUnderSource'
import { twoCabinets } from './twoCabinets'

export type { Check, Finding } from './finding'

/** Every rule, in the order in which findings are told. */
export const checks: readonly Check[] = [
  twoCabinets,
  missingCabinet,
  cabinetIntoCabinet,
  movedTwice,
  movedSyncedTime,
  storedUnderSource,
  liveAtMaximum,
]

/** Everything that the rules find in a preset. */
export const checkPreset = (preset: Preset, newId: () => string): Finding[] => checks.flatMap((check) => check.find(preset, newId))
