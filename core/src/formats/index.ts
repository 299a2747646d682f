export { readWav, WavError, writeWav, type Wav } from './wav'
