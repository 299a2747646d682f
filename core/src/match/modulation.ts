import { Fft } from '@fulgor/core/signal'
import { share, type Told, unsaid } from '@fulgor/core/measure'

/** An even movement of the level. */
export interface FoundModulation {
  readonly rateHz: number
  /** dB from its softest to its loudest. */
  readonly depthDb: number
}

/** Level values a second, and s that the slow part of the level is taken over. */
const RATE = 100
const SLOW_S = 0.6
/** Below it strokes swing as evenly. */
const FROM_HZ = 2.6
const TO_HZ = 12
/** dB that its second harmonic must lie below: strokes rise steeply and have many, a swing has none. */
const SWING_DB = 11
const MOST = 4_096
/** dB under the loudest from which on it rests, and share of the time from which on rests are part of the playing. */
const [REST_DB, RESTS] = [28, 0.1]

/**
 * Rate of a tremolo: a line in the spectrum of the level that stands alone. Strokes at an even pace have a line too, with harmonics of it
 * hardly lower; that tells them apart.
 * @param x mono
 */
export function modulationOf(x: Float32Array, sampleRate: number): Told<FoundModulation> {
  const frame = Math.round(sampleRate / RATE)
  const count = Math.min(MOST, Math.floor(x.length / frame))
  if (count < 4 * RATE) return unsaid('shorter than 4 s')
  const levels = Float64Array.from({ length: count }, (_, f) => {
    let sum = 1e-12
    for (let n = f * frame; n < (f + 1) * frame; n++) sum += x[n] * x[n]
    return 10 * Math.log10(sum / frame)
  })
  const loudest = levels.reduce((most, v) => Math.max(most, v), -120)
  if (levels.filter((db) => db < loudest - REST_DB).length > RESTS * count) return unsaid('stops would pass for a tremolo')
  const half = Math.round((SLOW_S * RATE) / 2)
  const size = MOST
  const [re, im] = [new Float64Array(size), new Float64Array(size)]
  let weights = 0
  for (let f = 0; f < count; f++) {
    let [sum, n] = [0, 0]
    for (let k = Math.max(0, f - half); k <= Math.min(count - 1, f + half); k++) {
      sum += Math.max(levels[k], loudest - 40)
      n++
    }
    const window = 0.5 - 0.5 * Math.cos((2 * Math.PI * f) / count)
    weights += window
    // an attack is no movement: what rises far is held
    re[f] = Math.max(-9, Math.min(9, Math.max(levels[f], loudest - 40) - sum / n)) * window
  }
  new Fft(size).forward(re, im)
  const bin = RATE / size
  const amplitude = (hz: number) => {
    let most = 0
    const at = hz / bin
    for (let k = Math.max(1, Math.floor(at - 2)); k <= Math.min(size / 2 - 1, Math.ceil(at + 2)); k++)
      most = Math.max(most, Math.hypot(re[k], im[k]))
    return (2 * most) / weights
  }
  let best = Math.ceil(FROM_HZ / bin)
  let whole = 0
  for (let k = best; k * bin <= TO_HZ; k++) {
    whole += re[k] * re[k] + im[k] * im[k]
    if (Math.hypot(re[k], im[k]) > Math.hypot(re[best], im[best])) best = k
  }
  const rateHz = best * bin
  const own = amplitude(rateHz)
  let near = 0
  for (let k = best - 3; k <= best + 3; k++) near += re[k] * re[k] + im[k] * im[k]
  const alone = near / Math.max(1e-9, whole)
  const harmonics = 20 * Math.log10(own / Math.max(1e-6, amplitude(2 * rateHz), amplitude(rateHz / 2)))
  const depthDb = 2 * own
  if (depthDb < 1) return { value: null, confidence: share(depthDb, 1, 0.3), words: 'no even movement of the level' }
  if (alone < 0.25 || harmonics < SWING_DB) return unsaid('strokes would hide a tremolo')
  return {
    value: { rateHz, depthDb },
    confidence: share(alone, 0.2, 0.6) * share(harmonics, SWING_DB - 3, SWING_DB + 6),
    words: `the level swings by ${depthDb.toFixed(0)} dB`,
  }
}
