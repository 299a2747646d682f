/** How a recording's curve is bent before anything is brought near it. */
export const TASTES = ['darker', 'brighter', 'tighter', 'fuller', 'drier'] as const
export type Taste = (typeof TASTES)[number]

/** dB an octave that a curve falls or rises by from 1 kHz on, and that it does below 200 Hz. */
const TILT_DB = 1.5
const LOW_DB = 2

/** dB that a taste turns a recording by at a frequency; “drier” is a matter of time, and turns nothing. */
export function bentDb(tastes: readonly Taste[], hz: number): number {
  const above = Math.max(0, Math.log2(hz / 1_000))
  const below = Math.max(0, Math.log2(200 / hz))
  let db = 0
  if (tastes.includes('darker')) db -= TILT_DB * above
  if (tastes.includes('brighter')) db += TILT_DB * above
  if (tastes.includes('tighter')) db -= LOW_DB * below
  if (tastes.includes('fuller')) db += LOW_DB * below
  return db
}
