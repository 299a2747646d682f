import type { Band } from '@fulgor/core/measure'

/** Power of the third octaves from one mid-band frequency to another, dB. */
export function bandPowerDb(bands: readonly Band[], from: number, to: number): number {
  const power = bands.reduce((sum, { hz, db }) => (hz >= from && hz <= to && db !== null ? sum + Math.pow(10, db / 10) : sum), 0)
  return 10 * Math.log10(power + 1e-30)
}

/** Mean level of the third octaves from one mid-band frequency to another, dB; null where one of them is silent. */
export function bandMeanDb(bands: readonly Band[], from: number, to: number): number | null {
  const inside = bands.filter(({ hz }) => hz >= from && hz <= to).map(({ db }) => db)
  if (inside.length === 0 || inside.includes(null)) return null
  return inside.reduce((sum: number, db) => sum + Number(db), 0) / inside.length
}
