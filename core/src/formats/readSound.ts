import { readAiff } from './aiff'
import { SoundFileError, type SoundFileData } from './soundFile'
import { readWav } from './wav'

/** What a file is by its first bytes, whatever its name. */
export function soundKind(bytes: Uint8Array): 'wav' | 'aiff' | 'flac' | 'zip' | null {
  const tag = String.fromCharCode(...bytes.subarray(0, 4))
  if (tag === 'RIFF') return 'wav'
  if (tag === 'FORM') return 'aiff'
  if (tag === 'fLaC') return 'flac'
  return tag === 'PK\u0003\u0004' ? 'zip' : null
}

/**
 * Reads a WAV or AIFF file. FLAC needs a decoder, which the shells bring.
 * @throws SoundFileError with the reason
 */
export function readSound(bytes: Uint8Array): SoundFileData {
  if (bytes.length === 0) throw new SoundFileError('it is empty.')
  const kind = soundKind(bytes)
  if (kind === 'wav') return readWav(bytes)
  if (kind === 'aiff') return readAiff(bytes)
  throw new SoundFileError(
    kind === 'flac' ? 'FLAC is not read here.' : 'this is no WAV, AIFF or FLAC file (its first bytes are none of theirs).',
  )
}
