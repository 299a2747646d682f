import { pitchOf } from '@fulgor/core/measure'
import { median, share, unsaid, type Told } from './told'

/** Samples of a look at half the rate, s between looks, and the aperiodicity up to which a look has a pitch. */
const LOOK = 1_024
const EVERY_S = 0.02
const CLEAR = 0.15
/** Hz that voices speak and sing at. */
const VOICE_HZ = [75, 500] as const
/** s that are looked at, and looks that must have a pitch. */
const MOST_S = 12
const LEAST = 40
/** Cents by which a pitch moves from look to look at most within one sound. */
const STEP_CENTS = 250
/** Cents a look from which on it is a voice's: a string stands still between its strokes. */
const GLIDES = 12

/**
 * Whether a voice is by itself: its pitch glides all the time, and that of a string holds (speech moves by several half steps a second;
 * common practice, no source). The median keeps bends and slides, which are rare, from counting. `value`: cents a second.
 * @param whole mono
 */
export function voiceIn(whole: Float64Array, wholeRate: number): Told<number> {
  // pitches up to 500 Hz need no more than half the rate
  const x = Float64Array.from(
    { length: Math.min(whole.length, MOST_S * wholeRate) >> 1 },
    (_, n) => 0.5 * (whole[2 * n] + whole[2 * n + 1]),
  )
  const sampleRate = wholeRate / 2
  const step = Math.round(EVERY_S * sampleRate)
  const end = x.length - LOOK
  const moves: number[] = []
  let last: number | null = null
  let [looks, pitched] = [0, 0]
  let loudest = 0
  for (let n = 0; n < end; n += 32) loudest = Math.max(loudest, Math.abs(x[n]))
  for (let at = 0; at < end; at += step) {
    const part = x.subarray(at, at + LOOK)
    let peak = 0
    for (const v of part) peak = Math.max(peak, Math.abs(v))
    if (peak < 0.1 * loudest) {
      last = null
      continue
    }
    looks++
    const pitch = pitchOf(part, sampleRate)
    const hz = pitch && pitch.aperiodicity < CLEAR && pitch.hz >= VOICE_HZ[0] && pitch.hz <= VOICE_HZ[1] ? pitch.hz : null
    if (hz !== null) pitched++
    if (hz !== null && last !== null) {
      const cents = Math.abs(1_200 * Math.log2(hz / last))
      if (cents < STEP_CENTS) moves.push(cents)
    }
    last = hz
  }
  if (moves.length < LEAST || pitched < 0.35 * looks) return unsaid('several notes at once')
  const middle = median(moves)
  const sure = share(moves.length, LEAST / 2, 4 * LEAST)
  return middle > GLIDES
    ? {
        value: middle / EVERY_S,
        confidence: sure * share(middle, GLIDES - 6, GLIDES + 12),
        words: 'a voice by itself: its pitch never stands still',
      }
    : { value: null, confidence: sure * share(middle, GLIDES, 2), words: 'no voice by itself' }
}
