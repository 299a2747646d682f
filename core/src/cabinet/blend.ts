import { dbToGain } from '@fulgor/core/signal'
import { audible, type BenchChannel, type MicBench } from './bench'
import { fadeOut, sourceTaps, type FileSource } from './channelTaps'
import { Kept } from './kept'
import { fftOf, spectrumOf, type HalfSpectrum } from './spectrum'
import { applyCut, Transfer } from './transfer'
import { loudnessGainDb, pinkWeights, type Weights } from './weights'

/** Frames that a blend leaves before the first sound. */
const LEAD = 4
/** The first sound is where a response first comes this near to its peak. */
const ONSET = 0.001

/** A response with one or two sides, at unity loudness for pink noise unless it is silent. */
export interface BlendedResponse {
  readonly left: Float64Array
  /** Null where both sides are alike. */
  readonly right: Float64Array | null
  /** dB that the sum of the channels was changed by to be at unity. */
  readonly gainDb: number
}

interface Placed {
  readonly channel: BenchChannel
  readonly spectrum: HalfSpectrum
}

/** FFT length that holds a blend of `frames`, its delays and the ringing of its cuts. */
export function blendSize(frames: number): number {
  let size = 4_096
  while (size < frames * 2.5) size *= 2
  return Math.max(size, 8_192)
}

/** First frame that is louder than −60 dB of the peak. */
export function onsetOf(taps: ArrayLike<number>): number {
  let peak = 0
  for (let n = 0; n < taps.length; n++) if (Math.abs(taps[n]) > peak) peak = Math.abs(taps[n])
  for (let n = 0; n < taps.length; n++) if (peak > 0 && Math.abs(taps[n]) >= peak * ONSET) return n
  return 0
}

const spectra = new Kept<HalfSpectrum>(2_000_000, ({ re }) => re.length)

/** A channel as it goes into the sum: source, minimum phase, cuts, delay, polarity, level. Null where its file is missing. */
export function channelSpectrum(
  cab: MicBench['cab'],
  channel: BenchChannel,
  frames: number,
  sampleRate: number,
  files: FileSource,
): HalfSpectrum | null {
  const size = blendSize(frames)
  const { source, minimumPhase, level, inverted, delay, lowCut, lowSlope, highCut, highSlope } = channel
  const key = JSON.stringify([
    source.kind === 'mic' ? cab : 0,
    source,
    minimumPhase,
    level,
    inverted,
    delay,
    lowCut,
    lowSlope,
    highCut,
    highSlope,
    frames,
    sampleRate,
  ])
  const known = spectra.get(key)
  if (known) return known
  const taps = sourceTaps(cab, source, minimumPhase, sampleRate, frames, files)
  if (!taps) return null
  const { re, im, binHz } = spectrumOf(taps, size, sampleRate)
  const shape = new Transfer(re.length, binHz)
  applyCut(shape, 'low', lowCut, lowSlope)
  applyCut(shape, 'high', highCut, highSlope)
  if (delay !== 0) shape.delay(delay * 1e-6)
  const gain = dbToGain(level) * (inverted ? -1 : 1)
  for (let k = 0; k < re.length; k++) {
    const r = gain * (re[k] * shape.re[k] - im[k] * shape.im[k])
    im[k] = gain * (re[k] * shape.im[k] + im[k] * shape.re[k])
    re[k] = r
  }
  return spectra.keep(key, { re, im, binHz })
}

/** All channels that sound and whose files are there. */
export function placedChannels(bench: MicBench, sampleRate: number, files: FileSource, frames = framesAt(bench, sampleRate)): Placed[] {
  return audible(bench.channels).flatMap((channel) => {
    const spectrum = channelSpectrum(bench.cab, channel, frames, sampleRate, files)
    return spectrum ? [{ channel, spectrum }] : []
  })
}

/** Frames of a bench's blend at a sample rate. */
export const framesAt = ({ frames }: Pick<MicBench, 'frames'>, sampleRate: number): number => Math.round((frames * sampleRate) / 48_000)

/** Sum of spectra with a gain each. @throws RangeError when there is none */
export function sumOf(parts: readonly { readonly spectrum: HalfSpectrum; readonly gain?: number }[]): HalfSpectrum {
  if (parts.length === 0) throw new RangeError('There is nothing to sum.')
  const { binHz } = parts[0].spectrum
  const re = new Float64Array(parts[0].spectrum.re.length)
  const im = new Float64Array(re.length)
  for (const { spectrum, gain = 1 } of parts) {
    if (gain === 0) continue
    for (let k = 0; k < re.length; k++) {
      re[k] += gain * spectrum.re[k]
      im[k] += gain * spectrum.im[k]
    }
  }
  return { re, im, binHz }
}

/** Balance: the near side keeps its level. */
const leftGain = (pan: number): number => (pan > 0 ? 1 - pan / 100 : 1)
const rightGain = (pan: number): number => (pan < 0 ? 1 + pan / 100 : 1)

/**
 * The bench's blend: every sounding channel summed into one response (or one a side), its common lead cut off, at unity loudness for
 * pink noise. Silence where nothing sounds.
 * @param weights what loudness is judged by, instead of pink noise
 */
export function blendResponse(
  bench: MicBench,
  sampleRate: number,
  files: FileSource,
  weights?: Weights,
  frames = framesAt(bench, sampleRate),
): BlendedResponse {
  const placed = placedChannels(bench, sampleRate, files, frames)
  if (placed.length === 0) return { left: new Float64Array(frames), right: null, gainDb: 0 }
  const earliest = Math.min(
    ...placed.map(({ channel }) => {
      const taps = sourceTaps(bench.cab, channel.source, channel.minimumPhase, sampleRate, frames, files)
      return (taps ? onsetOf(taps) : 0) + channel.delay * 1e-6 * sampleRate
    }),
  )
  const shift = Math.floor(earliest) - LEAD
  const stereo = placed.some(({ channel }) => channel.pan !== 0)
  const side = (gain: (pan: number) => number) => sumOf(placed.map(({ channel, spectrum }) => ({ spectrum, gain: gain(channel.pan) })))
  const left = side(leftGain)
  const right = stereo ? side(rightGain) : left
  const scale = weights ?? pinkWeights(left.re.length, left.binHz)
  const power = (s: HalfSpectrum) => Math.pow(10, loudnessGainDb(s.re, s.im, s.binHz, scale) / 10)
  const loud = 10 * Math.log10((power(left) + (stereo ? power(right) : power(left))) / 2)
  const gainDb = loud > -150 ? -loud : 0
  const taps = (s: HalfSpectrum) => tapsOf(s, frames, shift, dbToGain(gainDb))
  return { left: taps(left), right: stereo ? taps(right) : null, gainDb }
}

/** Back to time: `frames` taps from `shift` on, the last eighth faded where the response is cut short. */
function tapsOf({ re, im }: HalfSpectrum, frames: number, shift: number, gain: number): Float64Array {
  const size = 2 * (re.length - 1)
  const r = new Float64Array(size)
  const i = new Float64Array(size)
  r.set(re)
  i.set(im)
  for (let k = 1; k < size / 2; k++) {
    r[size - k] = re[k]
    i[size - k] = -im[k]
  }
  i[0] = i[size / 2] = 0
  fftOf(size).inverse(r, i)
  const taps = new Float64Array(frames)
  for (let n = 0; n < frames; n++) taps[n] = gain * r[(n + shift + size) % size]
  fadeOut(taps, Math.min(frames >> 3, 256))
  return taps
}
