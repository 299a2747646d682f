import { share, type Told, topBetween, unsaid } from '@fulgor/core/measure'
import { framesOf, onsetStrength } from './frames'

const LEAST_S = 4
/** bpm that are looked for, and the middle of what players take (Ellis, Journal of New Music Research 2007: 120, an octave and a bit wide). */
const FROM_BPM = 55
const TO_BPM = 210
const USUAL_BPM = 115
const OCTAVES = 1.1

/** Beats after which a stroke comes back. */
const MULTIPLES = [1, 2, 3, 4, 6, 8]
/** Frames that a stroke is spread over either way: hands are some milliseconds early and late. */
const LOOSE = 5

function spreadOut(onsets: Float64Array): Float64Array {
  return onsets.map((_, n) => {
    let sum = 0
    for (let k = Math.max(0, n - LOOSE); k <= Math.min(onsets.length - 1, n + LOOSE); k++)
      sum += onsets[k] * (1 - Math.abs(k - n) / (LOOSE + 1))
    return sum
  })
}

/**
 * Tempo of a stretch by the autocorrelation of its onsets, weighed by how usual a tempo is.
 * @param x mono
 */
export function tempoOfSound(x: Float32Array, sampleRate: number): Told<number> {
  const seconds = x.length / sampleRate
  if (seconds < LEAST_S) return unsaid(`a stretch of ${seconds.toFixed(1)} s; ${LEAST_S} s are needed`)
  const frames = framesOf(x, sampleRate, 1_024, 256, 340)
  const raw = spreadOut(onsetStrength(frames))
  const { rate } = frames
  const mean = raw.reduce((sum, v) => sum + v, 0) / raw.length
  const onsets = raw.map((v) => v - mean)
  const power = onsets.reduce((sum, v) => sum + v * v, 0)
  if (power < 1e-12) return unsaid('no strokes stand out')
  const most = Math.min(onsets.length - 2, Math.ceil((8.5 * 60 * rate) / FROM_BPM))
  const correlation = new Float64Array(most + 2)
  for (let lag = 1; lag < correlation.length; lag++) {
    let sum = 0
    for (let n = lag; n < onsets.length; n++) sum += onsets[n] * onsets[n - lag]
    correlation[lag] = (sum / power) * (onsets.length / (onsets.length - lag))
  }
  const at = (lag: number) => {
    const k = Math.floor(lag)
    return k + 1 > most ? 0 : correlation[k] + (lag - k) * (correlation[k + 1] - correlation[k])
  }
  let best = { bpm: 0, score: -Infinity, plain: 0 }
  for (let bpm = FROM_BPM; bpm <= TO_BPM; bpm *= 1.002) {
    const lag = (60 * rate) / bpm
    const heard = MULTIPLES.filter((m) => m * lag < most)
    const plain = heard.reduce((sum, m) => sum + at(m * lag), 0) / heard.length
    const score = plain * Math.exp(-0.5 * Math.pow(Math.log2(bpm / USUAL_BPM) / OCTAVES, 2))
    if (score > best.score) best = { bpm, score, plain }
  }
  const confidence = share(best.plain, 0.08, 0.35)
  if (confidence === 0) return unsaid('strokes do not come back at an even pace')
  // the longest multiple that is heard tells the beat most finely
  let beat = (60 * rate) / best.bpm
  for (let m = 1; m <= 8 && m * beat < most - 2; m *= 2) {
    const middle = Math.round(m * beat)
    let top = middle
    for (let k = middle - 4; k <= middle + 4; k++) if (correlation[k] > correlation[top]) top = k
    if (correlation[top] < 0.05 || Math.abs(top - middle) === 4) break
    beat = (top + topBetween(correlation[top - 1], correlation[top], correlation[top + 1])) / m
  }
  const bpm = (60 * rate) / beat
  return { value: bpm, confidence, words: 'by its strokes; half or double is heard alike' }
}
