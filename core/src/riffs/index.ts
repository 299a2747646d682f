export { playRiff, riffTempo, RIFF_PEAK_DBFS, shippedRiffs, STRENGTHS, synthesiseRiff, type Performance, type Strength } from './riffs'
export { PICKUPS, type PickupKind } from './pickups'
export { TUNINGS, type Tuning } from './strings'
