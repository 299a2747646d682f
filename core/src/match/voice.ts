import { median, share, type Told, unsaid } from '@fulgor/core/measure'
import { pitchesOf, type Pitches } from './pitches'

/** Aperiodicity up to which a look has a pitch. */
const CLEAR = 0.15
/** Hz that voices speak and sing at. */
const VOICE_HZ = [75, 500] as const
/** Looks that must have a pitch. */
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
export function voiceIn(whole: Float32Array, wholeRate: number, { looks, everyS }: Pitches = pitchesOf(whole, wholeRate)): Told<number> {
  const moves: number[] = []
  let last: number | null = null
  let pitched = 0
  for (const look of looks) {
    const clear = look !== null && look.hz !== null && look.aperiodicity < CLEAR && look.hz >= VOICE_HZ[0] && look.hz <= VOICE_HZ[1]
    const hz = clear ? look.hz : null
    if (hz !== null) pitched++
    if (hz !== null && last !== null) {
      const cents = Math.abs(1_200 * Math.log2(hz / last))
      if (cents < STEP_CENTS) moves.push(cents)
    }
    last = hz
  }
  if (moves.length < LEAST || pitched < 0.35 * looks.filter((look) => look !== null).length) return unsaid('several notes at once')
  const middle = median(moves)
  const sure = share(moves.length, LEAST / 2, 4 * LEAST)
  return middle > GLIDES
    ? {
        value: middle / everyS,
        confidence: sure * share(middle, GLIDES - 6, GLIDES + 12),
        words: 'a voice by itself: its pitch never stands still',
      }
    : { value: null, confidence: sure * share(middle, GLIDES, 2), words: 'no voice by itself' }
}
