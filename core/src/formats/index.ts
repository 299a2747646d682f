export { readAiff } from './aiff'
export { readSound, soundKind } from './readSound'
export { SoundFileError, type SoundFileData } from './soundFile'
export { readWav, writeWav, WavError, type Wav } from './wav'
