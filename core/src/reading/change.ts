import type { Band } from '@fulgor/core/measure'

/** How a sound stands, as far as it tells whether another one differs. */
export interface Character {
  readonly bands: readonly Band[]
  readonly crestDb: number | null
  readonly lufs: number | null
}

/** Bands that lie deeper under the loudest are not heard beside it, dB. */
const HEARD = 40

/**
 * By how much two sounds differ, dB: the largest of loudness, crest, and the mean difference of third octaves at the same loudness;
 * null where one of them is silent.
 */
export function changeDb(a: Character, b: Character): number | null {
  if (a.lufs === null || b.lufs === null || a.crestDb === null || b.crestDb === null) return null
  const louder = a.lufs - b.lufs
  const most = Math.max(...a.bands.map((band) => band.db ?? -Infinity))
  const differences = a.bands.flatMap((band, i) => {
    const other = b.bands[i].db
    return band.db === null || other === null || band.db < most - HEARD ? [] : [Math.abs(band.db - other - louder)]
  })
  const shape = differences.reduce((sum, d) => sum + d, 0) / Math.max(1, differences.length)
  return Math.max(Math.abs(louder), Math.abs(a.crestDb - b.crestDb), shape)
}
