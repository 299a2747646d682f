import { SoundFileError, type SoundFileData } from './soundFile'

/** A WAV file in memory. */
export type Wav = SoundFileData

/** Why a file is not a WAV that Fulgor reads: one sentence for the player. */
export class WavError extends SoundFileError {
  override readonly name = 'WavError'
}

const PCM = 1
const FLOAT = 3
const EXTENSIBLE = 0xfffe

interface Format {
  encoding: number
  channels: number
  sampleRate: number
  /** Bytes of a frame. */
  align: number
  bits: number
}

/** Where a WAV's samples lie, and how. */
export interface WavLayout extends Readonly<Format> {
  /** Bytes from the start of the file. */
  readonly dataAt: number
  readonly frames: number
  /** Frames that the file claims and does not hold. */
  readonly missing: number
}

/**
 * What the first bytes of a WAV tell of it: enough to read any stretch of a long one.
 * @param head the file's first bytes, its chunks before the samples among them
 * @param size bytes of the whole file
 * @throws WavError with the reason
 */
export function wavLayout(head: Uint8Array, size = head.length): WavLayout {
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength)
  const tag = (at: number) => String.fromCharCode(...head.subarray(at, at + 4))
  if (head.length < 12 || tag(0) !== 'RIFF' || tag(8) !== 'WAVE') throw new WavError('this is not a WAV file (no RIFF/WAVE header).')
  let format: Format | null = null
  for (let at = 12; at + 8 <= head.length;) {
    const id = tag(at)
    const claimed = view.getUint32(at + 4, true)
    const body = at + 8
    if (id === 'fmt ') format = readFormat(view, body, Math.min(claimed, head.length - body))
    else if (id === 'data') {
      if (!format) throw new WavError('its data stands before its format chunk.')
      const there = Math.min(claimed, size - body)
      const frames = Math.floor(there / format.align)
      if (frames === 0) throw new WavError('it holds no sound.')
      // a recorder that does not know the length writes all ones
      const missing = claimed > there && claimed < 0xfffffff0 ? Math.ceil((claimed - there) / format.align) : 0
      return { ...format, dataAt: body, frames, missing }
    }
    at = body + claimed + (claimed % 2)
  }
  throw new WavError(format ? 'it holds no data chunk.' : 'it holds no format chunk.')
}

/**
 * Samples of a stretch of a WAV, a channel each.
 * @param bytes the stretch's own bytes, from a whole frame on
 * @throws WavError where a sample is no finite number
 */
export function wavFrames(bytes: Uint8Array, { encoding, channels, bits, align }: WavLayout): Float32Array[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const frames = Math.floor(bytes.length / align)
  const width = bits / 8
  const sample = sampleReader(view, encoding, bits)
  const out = Array.from({ length: channels }, () => new Float32Array(frames))
  for (let n = 0; n < frames; n++) {
    for (let c = 0; c < channels; c++) {
      const value = sample(n * align + c * width)
      if (!Number.isFinite(value)) throw new WavError(`frame ${n} is not a finite number.`)
      out[c][n] = value
    }
  }
  return out
}

/**
 * Reads a RIFF WAVE file: PCM 8/16/24/32-bit or float 32/64-bit, mono or stereo, 8–192 kHz, extensible headers and extra chunks.
 * A data chunk that claims more than the file holds (a recording cut short) is read as far as it goes.
 * Source: Microsoft & IBM, Multimedia Programming Interface 1991; the extensible format of 2001.
 * @throws WavError with the reason
 */
export function readWav(bytes: Uint8Array): Wav {
  const layout = wavLayout(bytes)
  const { dataAt, frames, align, sampleRate, bits, encoding, missing } = layout
  return {
    sampleRate,
    bits,
    float: encoding === FLOAT,
    channels: wavFrames(bytes.subarray(dataAt, dataAt + frames * align), layout),
    ...(missing > 0 ? { missing } : {}),
  }
}

function readFormat(view: DataView, at: number, size: number): Format {
  if (size < 16) throw new WavError('its format chunk is cut short.')
  let encoding = view.getUint16(at, true)
  if (encoding === EXTENSIBLE) {
    if (size < 40) throw new WavError('its extensible format chunk is cut short.')
    encoding = view.getUint16(at + 24, true)
  }
  const format = {
    encoding,
    channels: view.getUint16(at + 2, true),
    sampleRate: view.getUint32(at + 4, true),
    align: view.getUint16(at + 12, true),
    bits: view.getUint16(at + 14, true),
  }
  const known = (encoding === PCM && [8, 16, 24, 32].includes(format.bits)) || (encoding === FLOAT && [32, 64].includes(format.bits))
  if (!known)
    throw new WavError(`its encoding (format ${encoding}, ${format.bits} bits) is not read; use PCM 8, 16, 24 or 32 bits or 32-bit float.`)
  if (format.channels < 1 || format.channels > 2) throw new WavError(`it has ${format.channels} channels; one or two are read.`)
  if (format.sampleRate < 8_000 || format.sampleRate > 192_000)
    throw new WavError(`its sample rate ${format.sampleRate} Hz lies outside 8–192 kHz.`)
  if (format.align !== (format.channels * format.bits) / 8) throw new WavError('its block size contradicts its channels and bits.')
  return format
}

function sampleReader(view: DataView, encoding: number, bits: number): (at: number) => number {
  if (encoding === FLOAT) return bits === 64 ? (at) => view.getFloat64(at, true) : (at) => view.getFloat32(at, true)
  // 8 bits alone are unsigned
  if (bits === 8) return (at) => (view.getUint8(at) - 0x80) / 0x80
  if (bits === 16) return (at) => view.getInt16(at, true) / 0x8000
  if (bits === 24) return (at) => ((view.getInt8(at + 2) << 16) | view.getUint16(at, true)) / 0x800000
  return (at) => view.getInt32(at, true) / 0x80000000
}

/**
 * Writes a WAV file. Integer formats are rounded to nearest and held at full scale; float keeps what lies above it.
 * @param channels one or two arrays of equal length
 */
export function writeWav(channels: readonly ArrayLike<number>[], sampleRate: number, bits: WavBits = 24): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(HEAD_BYTES + channels[0].length * channels.length * (bits / 8))
  bytes.set(wavHead(channels[0].length, channels.length, sampleRate, bits))
  putSamples(new DataView(bytes.buffer, HEAD_BYTES), channels, bits)
  return bytes
}

/** Bits a sample that are written; 32 are floats. */
export type WavBits = 16 | 24 | 32
const HEAD_BYTES = 44

/** What stands before the samples of a WAV file, for one that is written piece by piece. @throws WavError where the file would be too long */
export function wavHead(frames: number, channels: number, sampleRate: number, bits: WavBits): Uint8Array<ArrayBuffer> {
  const align = (bits / 8) * channels
  if (HEAD_BYTES + frames * align > 0xffffffff) throw new WavError('it is too long for a WAV file, which ends at 4 GB.')
  const bytes = new Uint8Array(HEAD_BYTES)
  const view = new DataView(bytes.buffer)
  const tag = (at: number, text: string) => bytes.set(new Uint8Array(Array.from({ length: text.length }, (_, i) => text.charCodeAt(i))), at)
  tag(0, 'RIFF')
  view.setUint32(4, HEAD_BYTES - 8 + frames * align, true)
  tag(8, 'WAVEfmt ')
  view.setUint32(16, 16, true)
  view.setUint16(20, bits === 32 ? FLOAT : PCM, true)
  view.setUint16(22, channels, true)
  view.setUint32(24, sampleRate, true)
  view.setUint32(28, sampleRate * align, true)
  view.setUint16(32, align, true)
  view.setUint16(34, bits, true)
  tag(36, 'data')
  view.setUint32(40, frames * align, true)
  return bytes
}

/** Samples as they stand in a WAV file: one piece of it, side by side. */
export function wavSamples(channels: readonly ArrayLike<number>[], bits: WavBits): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(channels[0].length * channels.length * (bits / 8))
  putSamples(new DataView(bytes.buffer), channels, bits)
  return bytes
}

function putSamples(view: DataView, channels: readonly ArrayLike<number>[], bits: WavBits): void {
  const frames = channels[0].length
  const width = bits / 8
  const whole = (value: number, scale: number) => Math.max(-scale, Math.min(scale - 1, Math.round(value * scale)))
  for (let n = 0, at = 0; n < frames; n++) {
    for (const data of channels) {
      if (bits === 32) view.setFloat32(at, data[n], true)
      else if (bits === 16) view.setInt16(at, whole(data[n], 0x8000), true)
      else {
        const v = whole(data[n], 0x800000)
        view.setUint16(at, v & 0xffff, true)
        view.setInt8(at + 2, v >> 16)
      }
      at += width
    }
  }
}
