import { soundKind, wavHead, type WavBits } from '@fulgor/core/formats'
import { Cancelled } from '../background/tasks'
import { importer } from '../threads/crews'
import { SAMPLE_RATE } from '../threads/rate'

/** Files that a recording is taken from; those behind the first ones need the browser's decoder. */
export const SOUND_FILES = '.wav,.wave,.aif,.aiff,.aifc,.flac'
export const CODED_FILES = `${SOUND_FILES},.mp3,.ogg,.oga,.opus,.m4a,.aac,.mp4,.webm`

/** Bytes in which a file tells its kind. */
const HEAD = 4_096
/** s of sound that are written at a time. */
const PIECE_S = 20

export interface Reading {
  readonly signal: AbortSignal
  /** What is done, and how much of it, 0–1; null while that cannot be known. */
  readonly onShare: (words: 'decoding' | 'writing', share: number | null) => void
}

/**
 * A sound file as WAV; one that is a WAV already is handed on as it is, unread.
 * @param coded whether the browser may decode what is none of WAV, AIFF and FLAC; the sound then comes at the engine's rate
 * @throws Error naming the file and the reason; Cancelled where its signal says so
 */
export async function asWav(file: File, coded: boolean, { signal, onShare }: Reading): Promise<Blob> {
  const kind = soundKind(new Uint8Array(await file.slice(0, HEAD).arrayBuffer()))
  if (kind === 'wav') return file
  onShare('decoding', null)
  if (!coded || file.size === 0 || kind !== null) {
    const asked = importer.ask({ task: 'asWav', args: [file], rank: 'now', key: null })
    signal.addEventListener('abort', asked.leave)
    return new Blob([(await asked.answer) as Uint8Array<ArrayBuffer>])
  }
  // the browser cannot be told to stop decoding: what it comes to is thrown away
  const sound = await Promise.race([decoded(file), ended(signal)])
  return written(sound, { signal, onShare })
}

const ended = (signal: AbortSignal): Promise<never> =>
  new Promise((_, fail) => {
    signal.addEventListener('abort', () => fail(new Cancelled()))
  })

async function decoded(file: File): Promise<AudioBuffer> {
  try {
    const bytes = await file.arrayBuffer()
    return await new OfflineAudioContext({ numberOfChannels: 2, length: 1, sampleRate: SAMPLE_RATE }).decodeAudioData(bytes)
  } catch {
    throw new Error(`“${file.name}” was not taken: it is no sound that this browser can read.`)
  }
}

/** Decoded sound as a WAV, a few seconds at a time: whole numbers where they fit, for a coded sound may go beyond full scale. */
async function written(sound: AudioBuffer, { signal, onShare }: Reading): Promise<Blob> {
  const channels = Array.from({ length: Math.min(2, sound.numberOfChannels) }, (_, c) => sound.getChannelData(c))
  const step = PIECE_S * sound.sampleRate
  const count = Math.ceil(sound.length / step)
  let bits: WavBits = 24
  let pieces: Blob[] = []
  while (pieces.length < count) {
    onShare('writing', pieces.length / count)
    const at = pieces.length * step
    // copies, for a view takes along all that lies behind it
    const args: [Float32Array[], WavBits] = [channels.map((x) => x.slice(at, at + step)), bits]
    const piece = await importer.run({ task: 'samples', args, rank: 'now', key: null })
    if (signal.aborted) throw new Cancelled()
    if (piece === null) {
      bits = 32
      pieces = []
    } else pieces.push(new Blob([piece])) // the browser may lay it on the disk
  }
  return new Blob([wavHead(sound.length, channels.length, sound.sampleRate, bits), ...pieces])
}
