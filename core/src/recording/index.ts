export {
  LEAST_PART_S,
  LONGEST_S,
  MOST_MARKED_S,
  MOST_MARKS,
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
  type View,
  VIEWS,
} from './description'
export { barsAt, looped, loopSeconds, onBeats, tempoOfBars, within } from './loop'
export { freeStretch, joined, marksOf, timeInFile, withMark, withoutMark } from './marks'
