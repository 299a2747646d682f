import type { Preset } from '@fulgor/core/preset'
import { cabinetIntoCabinet } from './cabinetIntoCabinet'
import type { Check, Finding } from './finding'
import { missingCabinet } from './missingCabinet'
import { twoCabinets } from './twoCabinets'

export type { Check, Finding } from './finding'

/** Every rule, in the order in which findings are told. */
export const checks: readonly Check[] = [twoCabinets, missingCabinet, cabinetIntoCabinet]

/** Everything that the rules find in a preset. */
export const checkPreset = (preset: Preset, newId: () => string): Finding[] => checks.flatMap((check) => check.find(preset, newId))
