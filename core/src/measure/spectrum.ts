import { halved } from './halved'
import { BEND, kernelFor } from './interpolation'
import { PIECE } from './kernel'
import { checkSignal, type Signal } from './loudness'

export interface Spectrum {
  /**
   * Mean power of the bins at (k + ½) · binHz, summed over the channels, scaled so that the bins of a signal sum to its mean square.
   */
  readonly power: Float64Array
  readonly binHz: number
}

/**
 * Long-term average spectrum, Welch's method with a Hann window (Welch, IEEE Trans. Audio 1967), 32-bit inside. Bins lie at odd
 * multiples of half a bin width.
 * @param size transform length, a power of two from 64 to 16,384
 * @param hop frames between windows; size/2 weighs every frame alike
 */
export function averageSpectrum(signal: Signal, sampleRate: number, size = 8192, hop = size / 2): Spectrum {
  checkSignal(signal)
  const kernel = kernelFor(size)
  const windows = Math.max(1, Math.ceil((signal[0].length - size) / hop) + 1)
  const perPiece = Math.max(1, Math.floor(PIECE / hop))
  const power = new Float64Array(size / 2)
  for (const data of signal)
    for (let first = 0; first < windows; first += perPiece) {
      const count = Math.min(perPiece, windows - first)
      kernel.load(data, first * hop, (count - 1) * hop + size)
      kernel.clearPower()
      for (let k = 0; k < count; k++) kernel.addFrame(k * hop)
      kernel.readPower(power)
    }
  scaleToMeanSquare(power, windows, size)
  return { power, binHz: sampleRate / size }
}

/** Both halves of the spectrum, over the Hann window's energy. */
function scaleToMeanSquare(power: Float64Array, windows: number, size: number): void {
  const scale = 2 / (windows * size * size * 0.375)
  for (let b = 0; b < power.length; b++) power[b] *= scale
}

/**
 * Brightness: the spectral centroid, amplitude-weighted mean frequency between 40 Hz and 16 kHz, Hz; null for silence.
 */
export function centroid({ power, binHz }: Spectrum): number | null {
  let weighted = 0
  let sum = 0
  for (let b = Math.ceil(40 / binHz); b < power.length && b * binHz <= 16_000; b++) {
    const amplitude = Math.sqrt(power[b])
    weighted += amplitude * (b + 0.5) * binHz
    sum += amplitude
  }
  return sum > 1e-9 ? weighted / sum : null
}

/** Nominal mid-band frequencies, ISO 266. */
export const THIRD_OCTAVES: readonly number[] = [
  25, 31.5, 40, 50, 63, 80, 100, 125, 160, 200, 250, 315, 400, 500, 630, 800, 1000, 1250, 1600, 2000, 2500, 3150, 4000, 5000, 6300, 8000,
  10_000, 12_500, 16_000, 20_000,
]

export interface Band {
  readonly hz: number
  /** dBFS of the band's mean square over all channels; null for silence. */
  readonly db: number | null
}

/** Third-octave levels; band edges of IEC 61260-1 (base ten, exact mid-band 1000·10^(n/10)). */
export function thirdOctaves(spectrum: Spectrum): Band[] {
  return THIRD_OCTAVES.map((hz, i) => {
    const exact = 1000 * Math.pow(10, (i - 16) / 10)
    const level = bandPower(spectrum, exact * Math.pow(10, -0.05), exact * Math.pow(10, 0.05))
    return { hz, db: level > 1e-14 ? 10 * Math.log10(level) : null }
  })
}

/** Low bands are narrower than a bin of the usual window: up to here they are measured at a lower rate, Hz. */
const LOW_HZ = 200
/** Rate at which low bands are measured lies above this, Hz. */
const LOW_RATE = 2_500
/** Frames at that rate below which a window is too short to tell them. */
const LEAST_LOW = 1_024

/**
 * Third-octave levels of a whole signal: as {@link thirdOctaves}, but bands up to 200 Hz from windows of up to 3 s, so that a sine of
 * 25 Hz is told as exactly as one of 1 kHz. Shorter than 0.35 s there is only the usual window.
 */
export function thirdOctavesOf(signal: Signal, sampleRate: number): Band[] {
  const bands = thirdOctaves(averageSpectrum(signal, sampleRate))
  const times = Math.max(0, Math.floor(Math.log2(sampleRate / LOW_RATE)))
  if (signal[0].length >> times < LEAST_LOW) return bands
  const low = Array.from({ length: times }).reduce((x: Signal) => halved(x), signal)
  const frames = low[0].length
  const size = Math.min(8_192, 2 ** Math.floor(Math.log2(frames)))
  const windows = Math.max(1, Math.round((frames - size) / (size / 2)) + 1)
  const hop = windows > 1 ? Math.floor((frames - size) / (windows - 1)) : size
  const whole = low.map((data) => data.subarray(0, size + hop * (windows - 1)))
  const fine = thirdOctaves(averageSpectrum(whole, sampleRate / 2 ** times, size, hop))
  return bands.map((band, k) => (band.hz <= LOW_HZ ? fine[k] : band))
}

/** Power between two frequencies; bins at the edges count by their share. */
export function bandPower({ power, binHz }: Spectrum, low: number, high: number): number {
  const from = low / binHz
  const to = Math.min(high / binHz, power.length)
  let sum = 0
  for (let b = Math.floor(from); b < to; b++) sum += power[b] * (Math.min(to, b + 1) - Math.max(from, b))
  return sum
}

const BRIGHTNESS_SIZE = 4096

/**
 * Level, peaks and brightness of a signal in one pass, for the figures after every stage.
 * @returns linear RMS over all channels, linear sample and true peak, and brightness in Hz (null for silence)
 */
export function survey(signal: Signal, sampleRate: number): { rms: number; peak: number; truePeak: number; centroidHz: number | null } {
  checkSignal(signal)
  const kernel = kernelFor(BRIGHTNESS_SIZE)
  const spectrum: Spectrum = { power: new Float64Array(BRIGHTNESS_SIZE / 2), binHz: sampleRate / BRIGHTNESS_SIZE }
  let squares = 0
  let peak = 0
  let between = 0
  for (const data of signal)
    for (let start = 0; start < data.length; start += PIECE) {
      const frames = Math.min(PIECE, data.length - start)
      kernel.load(data, start, frames)
      const scanned = kernel.scan(frames)
      squares += scanned.squares
      peak = Math.max(peak, scanned.peak)
      between = kernel.peakBetween(frames, Math.max(between, scanned.peak), BEND)
      kernel.clearPower()
      for (let at = 0; at + BRIGHTNESS_SIZE <= frames || at === 0; at += BRIGHTNESS_SIZE) kernel.addFrame(at)
      kernel.readPower(spectrum.power)
    }
  return {
    rms: Math.sqrt(squares / Math.max(1, signal.length * signal[0].length)),
    peak,
    truePeak: between,
    centroidHz: centroid(spectrum),
  }
}
