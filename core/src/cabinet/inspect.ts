import { gainToDb } from '@fulgor/core/signal'
import { onsetOf } from './blend'
import { spectrumOf, type HalfSpectrum } from './spectrum'
import { CURVE_HZ, curvePower, powerDb } from './curves'
import { resampledResponse, type SoundFile } from './channelTaps'
import { loudnessGainDb, pinkWeights } from './weights'

/** What one impulse response file holds. Levels in dBFS. */
export interface ResponseReport {
  readonly frames: number
  readonly channels: number
  readonly sampleRate: number
  readonly bits: number
  readonly peakDbfs: number
  /** Mean of all samples, full scale ±1. */
  readonly dc: number
  /** Frames before the first sound, counted to −60 dB of the peak. */
  readonly onsetSamples: number
  /** Sign of the first half wave that comes within 12 dB of the peak. */
  readonly polarity: 'positive' | 'negative'
  readonly durationS: number
  /** ms from the first sound until all that is left is 60 dB down. */
  readonly lengthMs: number
  /** Samples in runs of two or more at full scale. */
  readonly clipped: number
  /** dB by which it changes the loudness of pink noise. */
  readonly loudnessDb: number
  /** Brightness: amplitude-weighted mean frequency between 40 Hz and 16 kHz. */
  readonly centroidHz: number
  /** Third-octave levels from 63 Hz to 12.5 kHz against the loudness, dB. */
  readonly bands: readonly number[]
  /** Names the sound itself: equal for equal samples, whatever the file's name and format. */
  readonly fingerprint: string
}

/** Nominal mid-band frequencies of {@link ResponseReport.bands}. */
export const BAND_HZ: readonly number[] = [
  63, 80, 100, 125, 160, 200, 250, 315, 400, 500, 630, 800, 1000, 1250, 1600, 2000, 2500, 3150, 4000, 5000, 6300, 8000, 10_000, 12_500,
]

/** Longest response that is taken, s. */
export const LONGEST_RESPONSE_S = 10

const SIZE = 8_192
const RATE = 48_000

/**
 * Reads everything there is to say of a response.
 * @throws RangeError when it is silent, cut short or longer than 10 s
 */
export function inspectResponse(file: SoundFile & { readonly bits: number; readonly missing?: number }): ResponseReport {
  const { channels, sampleRate, bits } = file
  const frames = channels[0].length
  if (file.missing) throw new RangeError(`it is cut short: ${file.missing} of its ${frames + file.missing} samples are missing.`)
  if (frames / sampleRate > LONGEST_RESPONSE_S)
    throw new RangeError(`it is ${(frames / sampleRate).toFixed(1)} s long; an impulse response lasts up to ${LONGEST_RESPONSE_S} s.`)
  const mono = channels.length === 1 ? channels[0] : channels[0].map((x, n) => 0.5 * (x + channels[1][n]))
  let peak = 0
  let dc = 0
  let clipped = 0
  for (const data of channels) {
    let run = 0
    for (const x of data) {
      const size = Math.abs(x)
      if (size > peak) peak = size
      dc += x
      run = size >= 0.99996 ? run + 1 : 0
      if (run === 2) clipped += 2
      else if (run > 2) clipped++
    }
  }
  if (peak < 1e-6) throw new RangeError('it is silent.')
  const onsetSamples = onsetOf(mono)
  const spectrum = listeningSpectrum(mono, sampleRate, onsetSamples)
  const loudnessDb = loudnessGainDb(spectrum.re, spectrum.im, spectrum.binHz, pinkWeights(spectrum.re.length, spectrum.binHz))
  return {
    frames,
    channels: channels.length,
    sampleRate,
    bits,
    peakDbfs: gainToDb(peak),
    dc: dc / (frames * channels.length),
    onsetSamples,
    polarity: polarityOf(mono, peak),
    durationS: frames / sampleRate,
    lengthMs: decayMs(mono, onsetSamples, sampleRate),
    clipped,
    loudnessDb,
    centroidHz: centroidOf(spectrum),
    bands: bandsOf(spectrum, loudnessDb),
    fingerprint: fingerprintOf(channels, sampleRate),
  }
}

/** The first 170 ms from the onset on, at 48 kHz: enough for timbre, quick for thousands of files. */
function listeningSpectrum(mono: Float32Array, sampleRate: number, onset: number): HalfSpectrum {
  const from = Math.max(0, onset - 16)
  const part = mono.subarray(from, from + Math.ceil((SIZE * sampleRate) / RATE))
  const taps = sampleRate === RATE ? part : resampledResponse(part, sampleRate, RATE)
  return spectrumOf(taps.length > SIZE ? taps.subarray(0, SIZE) : taps, SIZE, RATE)
}

function polarityOf(mono: Float32Array, peak: number): 'positive' | 'negative' {
  // a sum of unlike sides may be far lower than either
  const own = mono.reduce((most, x) => Math.max(most, Math.abs(x)), 0) || peak
  return (mono.find((x) => Math.abs(x) >= own / 4) ?? 0) >= 0 ? 'positive' : 'negative'
}

/** Schroeder's backward integration down to −60 dB (Schroeder, JASA 1965). */
function decayMs(mono: Float32Array, onset: number, sampleRate: number): number {
  let energy = 0
  for (let n = onset; n < mono.length; n++) energy += mono[n] * mono[n]
  let left = 0
  for (let n = mono.length - 1; n >= onset; n--) {
    left += mono[n] * mono[n]
    if (left > energy * 1e-6) return ((n + 1 - onset) / sampleRate) * 1000
  }
  return 0
}

/** The same definition of brightness as for sounds. */
export function centroidOf({ re, im, binHz }: HalfSpectrum): number {
  let weighted = 0
  let sum = 0
  for (let k = Math.ceil(40 / binHz); k < re.length && k * binHz <= 16_000; k++) {
    const amplitude = Math.hypot(re[k], im[k])
    weighted += amplitude * k * binHz
    sum += amplitude
  }
  return sum > 0 ? weighted / sum : 0
}

/** Third-octave levels against a loudness, dB to a tenth; nothing lower than −80. */
export function bandsOf(spectrum: HalfSpectrum, loudnessDb: number): number[] {
  const power = curvePower(spectrum)
  return BAND_HZ.map((nominal) => {
    const exact = 1000 * Math.pow(10, Math.round(10 * Math.log10(nominal / 1000)) / 10)
    let sum = 0
    let count = 0
    CURVE_HZ.forEach((hz, i) => {
      if (hz < exact * Math.pow(10, -0.05) || hz >= exact * Math.pow(10, 0.05)) return
      sum += power[i]
      count++
    })
    return Math.max(-80, Math.round((powerDb(sum / count) - loudnessDb) * 10) / 10)
  })
}

/** 53-bit hash of all samples as they lie on a 24-bit grid (two lanes of multiply and rotate, after MurmurHash3's mixing). */
function fingerprintOf(channels: readonly Float32Array[], sampleRate: number): string {
  let a = 0xdeadbeef ^ sampleRate
  let b = 0x41c6ce57 ^ channels.length
  for (const data of channels)
    for (let n = 0; n < data.length; n++) {
      const value = Math.round(data[n] * 8_388_608)
      a = Math.imul(a ^ value, 2654435761)
      b = Math.imul(b ^ value, 1597334677)
      a = (a << 13) | (a >>> 19)
      b = (b << 17) | (b >>> 15)
    }
  a = Math.imul(a ^ (a >>> 16), 2246822507) ^ Math.imul(b ^ (b >>> 13), 3266489909)
  b = Math.imul(b ^ (b >>> 16), 2246822507) ^ Math.imul(a ^ (a >>> 13), 3266489909)
  return `${channels[0].length}-${(b >>> 0).toString(16).padStart(8, '0')}${(a >>> 0).toString(16).padStart(8, '0')}`
}
