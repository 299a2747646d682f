export { noteMs, NOTE_VALUES, repeatStepDb, repeatsUntilSilence, type NoteValue } from './noteValues'
