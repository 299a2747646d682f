import { FLACDecoder } from '@wasm-audio-decoders/flac'
import { readSound, soundKind, SoundFileError, type SoundFileData } from '@fulgor/core/formats'
import { InputError, readBytes } from './input'

/** Reads a WAV, AIFF or FLAC file. */
export async function readSoundFile(path: string): Promise<SoundFileData> {
  const bytes = readBytes(path)
  try {
    return soundKind(bytes) === 'flac' ? await readFlac(bytes) : readSound(bytes)
  } catch (error) {
    if (error instanceof SoundFileError) throw new InputError(`${path}: ${error.message}`)
    throw error
  }
}

async function readFlac(bytes: Uint8Array): Promise<SoundFileData> {
  const decoder = new FLACDecoder()
  await decoder.ready
  try {
    const { channelData, sampleRate, bitDepth, samplesDecoded, errors } = await decoder.decodeFile(bytes)
    if (errors.length > 0 || samplesDecoded === 0) throw new SoundFileError('its FLAC stream is damaged.')
    if (channelData.length > 2) throw new SoundFileError(`it has ${channelData.length} channels; one or two are read.`)
    return { sampleRate, bits: bitDepth, float: false, channels: channelData }
  } finally {
    decoder.free()
  }
}
