import { soundKind } from '@fulgor/core/formats'
import { importer } from '../threads/crews'
import { SAMPLE_RATE } from '../threads/rate'

/** Files that a recording is taken from; those behind the first ones need the browser's decoder. */
export const SOUND_FILES = '.wav,.wave,.aif,.aiff,.aifc,.flac'
export const CODED_FILES = `${SOUND_FILES},.mp3,.ogg,.oga,.opus,.m4a,.aac,.mp4,.webm`

/**
 * A sound file as WAV.
 * @param coded whether the browser may decode what is none of WAV, AIFF and FLAC; the sound then comes at the engine's rate
 * @throws Error naming the file and the reason
 */
export async function asWav(file: File, coded: boolean): Promise<Uint8Array> {
  const bytes = new Uint8Array(await file.arrayBuffer())
  const kind = soundKind(bytes)
  if (!coded || bytes.length === 0 || kind !== null)
    return importer.run({ task: 'asWav', args: [file.name, bytes], rank: 'now', key: null })
  let sound: AudioBuffer
  try {
    sound = await new OfflineAudioContext({ numberOfChannels: 2, length: 1, sampleRate: SAMPLE_RATE }).decodeAudioData(bytes.buffer)
  } catch {
    throw new Error(`“${file.name}” was not taken: it is no sound that this browser can read.`)
  }
  const channels = Array.from({ length: Math.min(2, sound.numberOfChannels) }, (_, c) => sound.getChannelData(c))
  return importer.run({ task: 'encoded', args: [channels, sound.sampleRate], rank: 'now', key: null })
}
