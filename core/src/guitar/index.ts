export {
  asDocument,
  bleedFields,
  cableFields,
  GUITAR_FORMAT,
  GUITAR_VERSION,
  guitarFields,
  guitarSchema,
  knobField,
  MAX_POSITIONS,
  PICKUP_KINDS,
  PLACES,
  positionFields,
  positionIndex,
  profileField,
  profileOf,
  readGuitar,
  toneFields,
  volumeFields,
  wiringFields,
  type GuitarDocument,
  type GuitarProfile,
  type PickupPlace,
  type PickupPosition,
  type PickupType,
  type StringTuning,
} from './description'
export { cablePf, circuitParams, coilOf, knobsTransfer, wiringOf } from './circuit'
export { asIfOn, playOn, strokesOn, voiceOf, type Voice } from './heard'
export { GUITARS, KIND_STARTS, PLACE_LABELS, startPosition, strokesAt } from './starts'
export { NAMED_TUNINGS, noteHz, noteName, noteNumber, parseTuning, tuningName, tuningOffsets } from './tuning'
export {
  dryChannel,
  LEAST_REST_S,
  measuredPosition,
  measureGuitar,
  measureSteps,
  UnfitRecording,
  type GuitarMeasure,
  type Segment,
} from './measuring'
export { noiseIn, restDbfs } from './noise'
export type { HeardPitch } from './pitch'
