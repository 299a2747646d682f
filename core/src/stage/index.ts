export {
  CLEAR_DB,
  clearingDb,
  distanceOf,
  echoPattern,
  maskingAmong,
  maskingOf,
  wetAgainstDryDb,
  type EchoPoint,
  type Masking,
} from './echoes'
export { noteMs, noteOfBeats, NOTE_VALUES, parseBeats, repeatStepDb, repeatsUntilSilence, type NoteValue } from './noteValues'
export { estimateTaps, nearestNote, TAP_PAUSE_MS, tappedBpm, type TapEstimate } from './tap'
export { reverbProposal, type ReverbProposal } from './spaces'
