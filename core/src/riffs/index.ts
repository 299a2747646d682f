export {
  addNoise,
  NECK_NOTE_S,
  NECK_NOTES,
  neckNotes,
  noiseOf,
  playRiff,
  restingGuitar,
  riffOnsets,
  riffTempo,
  RIFF_PEAK_DBFS,
  shippedRiffs,
  STRENGTHS,
  STROKE_DB,
  strokes,
  synthesiseRiff,
  type GuitarNoise,
  type Performance,
  type Strength,
} from './riffs'
export { PICKUPS, pickupOf, type CoilPlace, type Pickup, type PickupKind } from './pickups'
export { TUNINGS, type StringOffsets, type Tuning } from './strings'
