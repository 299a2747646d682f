/** A pitch that was heard. */
export interface Pitch {
  readonly hz: number
  /** 0 for a perfectly periodic sound; above some 0.2 it is none. */
  readonly aperiodicity: number
}

/** Lowest and highest that a guitar tuner listens for, Hz: below a dropped A, above the highest fret. */
const RANGE = [52, 1_400] as const
/** Source as below: absolute threshold of step 4. */
const THRESHOLD = 0.15
/** Of the mean square: softer than this is silence. */
const SILENCE = 1e-8

/**
 * Fundamental of a single note: the first dip of the cumulative mean normalised difference, refined by a parabola.
 * Source: de Cheveigné & Kawahara, J. Acoust. Soc. Am. 111(4), 2002, steps 2 to 5.
 * @param samples at least 1.5 periods of the lowest note twice over: 4,096 at 48 kHz
 * @returns null in silence, or where no period is clear
 * @throws RangeError when there are too few samples
 */
export function pitchOf(samples: ArrayLike<number>, sampleRate: number): Pitch | null {
  const longest = Math.ceil(sampleRate / RANGE[0])
  const shortest = Math.floor(sampleRate / RANGE[1])
  const window = samples.length - longest - 1
  if (window < longest) throw new RangeError(`A pitch needs ${2 * longest + 1} samples at ${sampleRate} Hz, not ${samples.length}.`)
  let power = 0
  for (let i = 0; i < window; i++) power += samples[i] * samples[i]
  if (power < SILENCE * window) return null
  const normalised = new Float64Array(longest + 2).fill(1)
  let sum = 0
  for (let lag = 1; lag <= longest + 1; lag++) {
    let difference = 0
    for (let i = 0; i < window; i++) {
      const step = samples[i] - samples[i + lag]
      difference += step * step
    }
    sum += difference
    normalised[lag] = sum === 0 ? 1 : (difference * lag) / sum
  }
  for (let lag = shortest; lag <= longest; lag++) {
    if (normalised[lag] > THRESHOLD) continue
    while (lag < longest && normalised[lag + 1] < normalised[lag]) lag++
    const [a, b, c] = [normalised[lag - 1], normalised[lag], normalised[lag + 1]]
    const bend = a - 2 * b + c
    return { hz: sampleRate / (lag + (bend > 0 ? (0.5 * (a - c)) / bend : 0)), aperiodicity: b }
  }
  return null
}

const NAMES = ['C', 'C♯', 'D', 'D♯', 'E', 'F', 'F♯', 'G', 'G♯', 'A', 'A♯', 'B']

/** The nearest note of equal temperament and how many cents the pitch lies above it. Source: ISO 16:1975, A of 440 Hz. */
export function noteOf(hz: number, a4 = 440): { name: string; octave: number; cents: number } {
  const semitones = 69 + 12 * Math.log2(hz / a4)
  const nearest = Math.round(semitones)
  return { name: NAMES[((nearest % 12) + 12) % 12], octave: Math.floor(nearest / 12) - 1, cents: 100 * (semitones - nearest) }
}
