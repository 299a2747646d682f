export { CLEAR_DB, clearingDb, distanceOf, echoPattern, maskingOf, wetAgainstDryDb, type EchoPoint, type Masking } from './echoes'
export { noteMs, NOTE_VALUES, repeatStepDb, repeatsUntilSilence, type NoteValue } from './noteValues'
export { estimateTaps, nearestNote, TAP_PAUSE_MS, tappedBpm, type TapEstimate } from './tap'
