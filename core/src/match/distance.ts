import { THIRD_OCTAVES } from '@fulgor/core/measure'

type BandDb = readonly (number | null)[]

/** Hz between which two sounds are compared. */
export interface Trusted {
  readonly fromHz: number
  readonly toHz: number
}

export const WHOLE: Trusted = { fromHz: 100, toHz: 10_000 }

/** How far a sound is from a recording. */
export interface Distance {
  /** Root mean square of the third octaves at equal loudness, dB. */
  readonly db: number
  /** Sound less recording at equal loudness, dB; null where either has nothing or nothing is compared. */
  readonly bands: BandDb
  /** dB by which the sound is louder. */
  readonly louder: number
}

/**
 * Distance of a sound from a recording: root mean square, over the trusted third octaves, of their difference once its mean is taken
 * off. A level is a matter of levelling, not of tone.
 * @returns null where fewer than four bands can be compared
 */
export function distanceOf(sound: BandDb, recording: BandDb, { fromHz, toHz }: Trusted = WHOLE): Distance | null {
  const apart = THIRD_OCTAVES.map((hz, k) => {
    const [a, b] = [sound[k], recording[k]]
    return hz >= fromHz && hz <= toHz && a !== null && b !== null ? a - b : null
  })
  const known = apart.filter((db) => db !== null)
  if (known.length < 4) return null
  const louder = known.reduce((sum, db) => sum + db, 0) / known.length
  const bands = apart.map((db) => (db === null ? null : db - louder))
  return { db: Math.sqrt(known.reduce((sum, db) => sum + (db - louder) ** 2, 0) / known.length), bands, louder }
}
