import { loudness, type Signal } from './loudness'
import { thirdOctavesOf, type Band } from './spectrum'

/** How wide a stereo signal is, and what a mono house leaves of it. */
export interface StereoFigures {
  /** Correlation of both sides, −1 to 1; null for silence. */
  readonly correlation: number | null
  /** Power of the difference of both sides over that of their sum, dB: −∞ is mono, 0 is as wide as two players who share nothing. */
  readonly widthDb: number | null
  /** LU that a mono sum (the mean of both sides, on both sides) is softer; null for silence, Infinity when nothing is left. */
  readonly monoLossLu: number | null
  /** dB that each third octave changes by in mono. */
  readonly monoBands: readonly Band[]
}

/** Width, correlation and mono loss of a stereo signal; definitions as in the fields. Levels below −140 dB count as silence. */
export function stereoFigures([left, right]: readonly [Float32Array, Float32Array], sampleRate: number): StereoFigures {
  const mono = monoSum([left, right])
  let [ll, rr, lr] = [0, 0, 0]
  for (let n = 0; n < left.length; n++) {
    ll += left[n] * left[n]
    rr += right[n] * right[n]
    lr += left[n] * right[n]
  }
  const power = (ll + rr) / Math.max(1, left.length)
  if (power < 1e-14) return { correlation: null, widthDb: null, monoLossLu: null, monoBands: [] }
  const whole = loudness([left, right], sampleRate).integratedLufs
  return {
    correlation: ll > 0 && rr > 0 ? lr / Math.sqrt(ll * rr) : null,
    widthDb: 10 * Math.log10(Math.max(0, ll + rr - 2 * lr) / Math.max(1e-30, ll + rr + 2 * lr)),
    monoLossLu: monoLoss(whole, mono, sampleRate),
    monoBands: bandsOver([mono, mono], [left, right], sampleRate),
  }
}

/** What a mono house plays: the mean of both sides. */
export function monoSum([left, right]: readonly [Float32Array, Float32Array]): Float32Array {
  const mono = new Float32Array(left.length)
  for (let n = 0; n < mono.length; n++) mono[n] = 0.5 * (left[n] + right[n])
  return mono
}

/**
 * {@link StereoFigures.monoLossLu} of a sound that is measured already.
 * @param lufs of both sides
 * @param mono their {@link monoSum}
 */
export function monoLoss(lufs: number | null, mono: Float32Array, sampleRate: number): number | null {
  if (lufs === null) return null
  const folded = loudness([mono, mono], sampleRate).integratedLufs
  return folded === null ? Infinity : lufs - folded
}

/** Third octaves of one signal over those of another, dB; null where either is silent. */
function bandsOver(a: Signal, b: Signal, sampleRate: number): Band[] {
  const [of, over] = [a, b].map((signal) => thirdOctavesOf(signal, sampleRate))
  return of.map(({ hz, db }, i) => {
    const below = over[i].db
    return { hz, db: db === null || below === null ? null : db - below }
  })
}

/**
 * What piles up in a sum: each third octave over the loudest single part in it, dB. Two equal parts give 6, two unlike ones of the same
 * level 3, one alone 0; below 0 they cancel.
 * @param parts at least one, as long as the sum
 */
export function buildUp(sum: Signal, parts: readonly Signal[], sampleRate: number): Band[] {
  const whole = thirdOctavesOf(sum, sampleRate)
  const single = parts.map((part) => thirdOctavesOf(part, sampleRate))
  return whole.map(({ hz, db }, i) => {
    const loudest = Math.max(...single.map((bands) => bands[i].db ?? -Infinity))
    return { hz, db: db === null || !Number.isFinite(loudest) ? null : db - loudest }
  })
}
