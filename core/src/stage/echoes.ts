/** One repeat of a delay. */
export interface EchoPoint {
  readonly ms: number
  /** Against the dry note. */
  readonly db: number
}

/** Softer than this nobody hears a repeat. */
const FLOOR_DB = -60

/**
 * Repeats of a note through a delay, level by level: the first comes at `wetDb`, each further one `feedback` below the one before.
 * @param feedback 0–1
 * @returns those above −60 dB, at most 200
 */
export function echoPattern(timeMs: number, feedback: number, wetDb: number): EchoPoint[] {
  const points: EchoPoint[] = []
  for (let k = 1; k <= 200; k++) {
    const db = k === 1 ? wetDb : wetDb + (k - 1) * 20 * Math.log10(feedback)
    if (!(db > FLOOR_DB)) break
    points.push({ ms: k * timeMs, db })
  }
  return points
}

/** How a mix weighs wet against dry: dB of the wet side over the dry one, from their gains (decision 5 says how a mix sets them). */
export function wetAgainstDryDb(wet: number, dry: number): number {
  return dry <= 0 ? Infinity : 20 * Math.log10(Math.max(wet, 1e-9) / dry)
}

export interface Masking {
  /** dB by which all echoes that fall on a new note lie below it: the more, the clearer the notes. */
  readonly underDb: number
  /** The note that they fall on comes this many ms after the first. */
  readonly stepMs: number
}

/** dB that echoes should stay under the next note not to blur it (common practice, no source). */
export const CLEAR_DB = 12
/** ms around a note within which an echo falls on it. */
const WINDOW_MS = 40

/**
 * How far echoes stay under the next notes, when notes as loud as the first follow at a fixed step: the power sum of all echoes that
 * fall within 40 ms of a note, from all notes before it.
 * @returns null where no echo falls on a note
 */
export function maskingOf(pattern: readonly EchoPoint[], stepMs: number): Masking | null {
  let power = 0
  for (const { ms, db } of pattern) {
    const beyond = ms / stepMs
    const off = Math.abs(beyond - Math.round(beyond)) * stepMs
    if (Math.round(beyond) >= 1 && off <= WINDOW_MS) power += Math.pow(10, db / 10)
  }
  return power === 0 ? null : { underDb: -10 * Math.log10(power), stepMs }
}

/** ms before and after an onset in which a repeat covers its attack: forward masking has fallen by some 10 dB after 80 ms (Moore, An Introduction to the Psychology of Hearing, from memory). */
const COVERS_MS = [-20, 80] as const

/**
 * How far repeats stay under the notes of a riff: for each note the power sum of all repeats, of all notes before it, that fall on its
 * attack; the median over the notes that any falls on. All notes count as equally loud.
 * @param onsets ms, rising
 * @returns dB; null where no repeat falls on a note
 */
export function maskingAmong(pattern: readonly EchoPoint[], onsets: readonly number[]): number | null {
  const under = onsets.flatMap((onset, i) => {
    let power = 0
    for (const before of onsets.slice(0, i))
      for (const { ms, db } of pattern) {
        const late = before + ms - onset
        if (late >= COVERS_MS[0] && late <= COVERS_MS[1]) power += Math.pow(10, db / 10)
      }
    return power === 0 ? [] : [-10 * Math.log10(power)]
  })
  if (under.length === 0) return null
  return under.sort((a, b) => a - b)[Math.floor((under.length - 1) / 2)]
}

/** dB that the wet side must come down for echoes to stay clear of the notes; 0 where they are. */
export const clearingDb = (masking: Masking | null): number => (masking ? Math.max(0, CLEAR_DB - masking.underDb) : 0)

/** Metres and feet that sound travels in a time at 20 °C (343 m/s). */
export const distanceOf = (ms: number): { metres: number; feet: number } => ({ metres: 0.343 * ms, feet: (0.343 * ms) / 0.3048 })
