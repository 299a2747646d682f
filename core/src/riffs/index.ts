export {
  NECK_NOTE_S,
  NECK_NOTES,
  neckNotes,
  playRiff,
  restingGuitar,
  riffOnsets,
  riffTempo,
  RIFF_PEAK_DBFS,
  shippedRiffs,
  STRENGTHS,
  STROKE_DB,
  synthesiseRiff,
  type Performance,
  type Strength,
} from './riffs'
export { PICKUPS, type PickupKind } from './pickups'
export { TUNINGS, type Tuning } from './strings'
