import { median, share, type Told, unsaid } from '@fulgor/core/measure'
import { pitchesOf, type Pitches } from './pitches'

/** Aperiodicity up to which a look is one note, share of the looks that must be, and how many at least. */
const ONE_NOTE = 0.08
const MOSTLY = 0.6
const LEAST = 40
/** Samples of the spectrum of a look, at half the rate. */
const FRAMES = 2_048
/**
 * dB by which even partials stand over odd ones: up to 1 in single lines of the string model, clean and clipped; 4 to 11 with an octave below
 * along, and 5 to 7 in octaves that are played (measured on the riffs of the string model).
 */
const EVEN_DB = [2.5, 4.5] as const

/**
 * Whether a single line has an octave along, by the partials of its lowest voice: of an octave pair the upper one has only the even partials.
 * An octave above what is played is not told: it stands where the note's own partials stand, and adds 0 to 3 dB to them.
 * `value`: dB of even partials over odd ones.
 * @param whole mono
 */
export function octaveIn(
  whole: Float32Array,
  wholeRate: number,
  { x, sampleRate, looks }: Pitches = pitchesOf(whole, wholeRate),
): Told<number> {
  const sounding = looks.flatMap((look) => look ?? [])
  const single = sounding.flatMap(({ at, hz, aperiodicity }) =>
    hz !== null && aperiodicity < ONE_NOTE && at + FRAMES <= x.length ? [evenOverOdd(x.subarray(at, at + FRAMES), hz / sampleRate)] : [],
  )
  if (single.length < LEAST || single.length < MOSTLY * sounding.length) return unsaid('several notes at once')
  const db = median(single)
  const sure = share(single.length, LEAST / 2, 4 * LEAST)
  const [none, certain] = EVEN_DB
  const split = (none + certain) / 2
  return db > split
    ? {
        value: db,
        confidence: sure * share(db, none, certain),
        words: 'an octave pair: one below what is played, or octaves on two strings',
      }
    : {
        value: null,
        confidence: 0.5 * sure * share(db, certain, none),
        words: 'no octave below; one above would not be told from the note',
      }
}

/** dB of partials 2, 4 and 6 over 1, 3 and 5. @param cycles of the first, a sample */
function evenOverOdd(part: Float32Array, cycles: number): number {
  const power = [1, 2, 3, 4, 5, 6].map((k) => {
    let re = 0
    let im = 0
    for (let n = 0; n < part.length; n++) {
      const windowed = (0.5 - 0.5 * Math.cos((2 * Math.PI * n) / part.length)) * part[n]
      re += windowed * Math.cos(2 * Math.PI * k * cycles * n)
      im += windowed * Math.sin(2 * Math.PI * k * cycles * n)
    }
    return re * re + im * im
  })
  const sum = (of: readonly number[]) => of.reduce((all, k) => all + power[k - 1], 1e-30)
  return 10 * Math.log10(sum([2, 4, 6]) / sum([1, 3, 5]))
}
