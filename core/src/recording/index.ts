export {
  LEAST_PART_S,
  newRecording,
  partField,
  readRecording,
  RECORDING_VERSION,
  recordingFields,
  recordingId,
  recordingSchema,
  recordingTold,
  RECORDING_USES,
  TEMPO_RANGE,
  type Part,
  type Recording,
  type RecordingUse,
} from './description'
export { barsAt, looped, loopSeconds, onBeats, tempoOfBars, within } from './loop'
