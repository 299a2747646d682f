import { Fft } from '@fulgor/core/signal'
import { median, share, topBetween, unsaid, type Told } from './told'

export interface FoundEcho {
  readonly lagMs: number
  /** dB below the sound itself. */
  readonly db: number
  /** It comes back again and again. */
  readonly repeats: boolean
}

const SIZE = 131_072
/** ms between which an echo is heard as one. */
const FROM_MS = 45
const TO_MS = 1_250
/** Deviations of its surroundings that a peak must stand above. */
const STANDS = 16

/**
 * Echo of a stretch by the real cepstrum of its long-time power (Bogert, Healy & Tukey 1963): a copy that comes later ripples the
 * spectrum. One that comes before a distortion is no copy any more, and is not found.
 * @param x mono
 */
export function echoOf(x: Float32Array, sampleRate: number): Told<FoundEcho> {
  if (x.length < SIZE) return unsaid(`a stretch of ${(x.length / sampleRate).toFixed(1)} s; ${(SIZE / sampleRate).toFixed(1)} s are needed`)
  const starts = Array.from({ length: Math.floor((4 * (x.length - SIZE)) / SIZE) + 1 }, (_, k) => (k * SIZE) / 4)
  return echoIn(
    starts.map((at) => (n) => x[at + n] * (0.5 - 0.5 * Math.cos((2 * Math.PI * n) / SIZE))),
    sampleRate,
  )
}

/** The same of single strokes, each with its own sound alone: what the hand repeats is no echo. */
export function echoOfStrokes(strokes: readonly Float32Array[], sampleRate: number): Told<FoundEcho> {
  const fade = Math.round(0.1 * sampleRate)
  return echoIn(
    strokes.map((x) => (n) => (n < x.length ? x[n] * Math.min(1, (x.length - n) / fade) : 0)),
    sampleRate,
  )
}

/** @param blocks each gives its sample n, 0 to {@link SIZE}, windowed */
function echoIn(blocks: readonly ((n: number) => number)[], sampleRate: number): Told<FoundEcho> {
  const fft = new Fft(SIZE)
  const [re, im] = [new Float64Array(SIZE), new Float64Array(SIZE)]
  const logs = new Float64Array(SIZE)
  let heard = 0
  for (const block of blocks) {
    let power = 0
    for (let n = 0; n < SIZE; n++) {
      re[n] = block(n)
      power += re[n] * re[n]
    }
    if (power < 1e-6) continue
    im.fill(0)
    fft.forward(re, im)
    heard++
    for (let k = 0; k < SIZE; k++) logs[k] += Math.log(re[k] * re[k] + im[k] * im[k] + 1e-18)
  }
  if (heard === 0) return unsaid('silence')
  // only where a guitar is loud: noise above holds no echo
  const [low, high] = [Math.round((120 * SIZE) / sampleRate), Math.round((5_500 * SIZE) / sampleRate)]
  for (let k = 0; k <= SIZE / 2; k++) {
    const inside = k >= low && k <= high
    re[k] = inside ? logs[k] / heard : 0
  }
  // what the tone itself bends the spectrum by is taken off, so that the band's edges do not ring
  const broad = smoothedLog(re, low, high, Math.round((40 * SIZE) / sampleRate))
  for (let k = low; k <= high; k++) re[k] = (re[k] - broad[k]) * (0.5 - 0.5 * Math.cos((2 * Math.PI * (k - low)) / (high - low)))
  for (let k = 1; k < SIZE / 2; k++) re[SIZE - k] = re[k]
  im.fill(0)
  fft.inverse(re, im)
  const scale = SIZE / (high - low)
  const cepstrum = re
  const [from, to] = [Math.round((FROM_MS * sampleRate) / 1000), Math.round((TO_MS * sampleRate) / 1000)]
  let best = { lag: 0, stands: 0 }
  const step = Math.round(0.01 * sampleRate)
  for (let start = from; start < to; start += step) {
    const around = cepstrum.subarray(Math.max(1, start - 2 * step), start + 3 * step)
    const spread = median(Float64Array.from(around, Math.abs)) / 0.6745 + 1e-12
    for (let lag = start; lag < start + step; lag++) {
      const stands = cepstrum[lag] / spread
      if (stands > best.stands) best = { lag, stands }
    }
  }
  if (best.stands < STANDS) return { value: null, confidence: 1 - share(best.stands, 6, STANDS + 4), words: 'no echo stands out' }
  const lag = best.lag + topBetween(cepstrum[best.lag - 1], cepstrum[best.lag], cepstrum[best.lag + 1])
  // a window as long as this loses some of a late copy
  const overlap = 1 - lag / SIZE
  // ln |1 + g e^−jωτ|² has 2 g cos ωτ: over a band of that share of all bins, halved by its window, the cepstrum is g times the share
  const gain = Math.min(1, (scale * cepstrum[best.lag]) / overlap)
  const twice = cepstrum[Math.min(SIZE / 2 - 1, 2 * best.lag)]
  return {
    value: { lagMs: (1000 * lag) / sampleRate, db: 20 * Math.log10(gain), repeats: twice > 0 && 2 * best.lag < SIZE / 2 },
    confidence: share(best.stands, STANDS - 6, 2 * STANDS),
    words: 'a copy that comes later',
  }
}

/** A running mean over so many bins either side. */
function smoothedLog(values: Float64Array, low: number, high: number, reach: number): Float64Array {
  const out = new Float64Array(high + 1)
  let sum = 0
  let count = 0
  let [a, b] = [low, low - 1]
  for (let k = low; k <= high; k++) {
    while (b < Math.min(high, k + reach)) {
      sum += values[++b]
      count++
    }
    while (a < k - reach) {
      sum -= values[a++]
      count--
    }
    out[k] = sum / count
  }
  return out
}
