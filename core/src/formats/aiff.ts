import { SoundFileError, type SoundFileData } from './soundFile'

/** AIFF-C encodings that are plain samples: big-endian PCM, little-endian PCM, 32- and 64-bit float. */
const ENCODINGS: Readonly<Record<string, 'big' | 'little' | 'float32' | 'float64'>> = {
  NONE: 'big',
  twos: 'big',
  sowt: 'little',
  fl32: 'float32',
  FL32: 'float32',
  fl64: 'float64',
}

interface Common {
  channels: number
  frames: number
  bits: number
  sampleRate: number
  encoding: 'big' | 'little' | 'float32' | 'float64'
}

/**
 * Reads an AIFF or AIFF-C file: PCM 16, 24 or 32 bits, float 32 or 64, mono or stereo, 8–192 kHz.
 * Source: Audio Interchange File Format 1.3 (1989) and AIFF-C draft (1991); the 80-bit rate of IEEE 754-1985.
 * @throws SoundFileError with the reason
 */
export function readAiff(bytes: Uint8Array): SoundFileData {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const tag = (at: number) => String.fromCharCode(...bytes.subarray(at, at + 4))
  if (bytes.length < 12 || tag(0) !== 'FORM' || !['AIFF', 'AIFC'].includes(tag(8)))
    throw new SoundFileError('this is not an AIFF file (no FORM/AIFF header).')
  let common: Common | null = null
  let data: { at: number; size: number; lacking: number } | null = null
  for (let at = 12; at + 8 <= bytes.length;) {
    const id = tag(at)
    const size = view.getUint32(at + 4, false)
    const body = at + 8
    const there = Math.min(size, bytes.length - body)
    if (id === 'COMM') common = readCommon(view, body, there, tag(8) === 'AIFC' ? tag : null)
    if (id === 'SSND') {
      if (there < 8) throw new SoundFileError('its sound chunk is cut short.')
      const offset = view.getUint32(body, false)
      data = { at: body + 8 + offset, size: there - 8 - offset, lacking: size - there }
    }
    at = body + size + (size % 2)
  }
  if (!common) throw new SoundFileError('it holds no common chunk.')
  if (!data || data.size <= 0) throw new SoundFileError('it holds no sound.')
  const missing = Math.ceil(data.lacking / ((common.bits / 8) * common.channels))
  return {
    sampleRate: common.sampleRate,
    bits: common.bits,
    float: common.encoding.startsWith('float'),
    channels: readSamples(view, data, common),
    ...(missing > 0 ? { missing } : {}),
  }
}

function readCommon(view: DataView, at: number, size: number, tag: ((at: number) => string) | null): Common {
  if (size < (tag ? 22 : 18)) throw new SoundFileError('its common chunk is cut short.')
  const name = tag ? tag(at + 18) : 'NONE'
  const encoding = ENCODINGS[name]
  if (!encoding) throw new SoundFileError(`its encoding “${name}” is not read; use plain PCM or float.`)
  const bits = encoding === 'float32' ? 32 : encoding === 'float64' ? 64 : view.getInt16(at + 6, false)
  const common = {
    channels: view.getInt16(at, false),
    frames: view.getUint32(at + 2, false),
    bits,
    sampleRate: extended(view, at + 8),
    encoding,
  }
  if (!encoding.startsWith('float') && ![16, 24, 32].includes(bits))
    throw new SoundFileError(`${bits} bits are not read; use 16, 24 or 32.`)
  if (common.channels < 1 || common.channels > 2) throw new SoundFileError(`it has ${common.channels} channels; one or two are read.`)
  if (!(common.sampleRate >= 8_000 && common.sampleRate <= 192_000))
    throw new SoundFileError(`its sample rate ${common.sampleRate} Hz lies outside 8–192 kHz.`)
  return common
}

/** An 80-bit float: sign and exponent in 16 bits, then a 64-bit significand. */
function extended(view: DataView, at: number): number {
  const exponent = (view.getUint16(at, false) & 0x7fff) - 16_383
  const significand = view.getUint32(at + 2, false) * 4_294_967_296 + view.getUint32(at + 6, false)
  return significand * Math.pow(2, exponent - 63)
}

function readSamples(view: DataView, data: { at: number; size: number }, { channels, frames, bits, encoding }: Common): Float32Array[] {
  const width = bits / 8
  const count = Math.min(frames, Math.floor(data.size / (width * channels)))
  if (count === 0) throw new SoundFileError('it holds no sound.')
  const little = encoding === 'little'
  const sample = (at: number): number => {
    if (encoding === 'float32') return view.getFloat32(at, false)
    if (encoding === 'float64') return view.getFloat64(at, false)
    if (bits === 16) return view.getInt16(at, little) / 0x8000
    if (bits === 32) return view.getInt32(at, little) / 0x80000000
    const high = view.getInt8(little ? at + 2 : at)
    return ((high << 16) | (view.getUint8(at + 1) << 8) | view.getUint8(little ? at : at + 2)) / 0x800000
  }
  const out = Array.from({ length: channels }, () => new Float32Array(count))
  for (let n = 0; n < count; n++)
    for (let c = 0; c < channels; c++) {
      const value = sample(data.at + (n * channels + c) * width)
      if (!Number.isFinite(value)) throw new SoundFileError(`frame ${n} is not a finite number.`)
      out[c][n] = value
    }
  return out
}
