import type { ControlTarget } from './description'

/** LU that a travel may differ by without being evened out. */
const EVEN_LU = 0.3

/**
 * A target that evens out the loudness along a travel: the level of the last Output, drawn against what was measured, so that the
 * whole travel is as loud as its heel.
 * @param lufs at equal steps of the travel, heel first
 * @param level of the Output now, dB, and its range
 * @returns null where it is even already, or where something is silent
 */
export function evenOut(
  lufs: readonly (number | null)[],
  level: number,
  [min, max]: readonly [number, number],
): Pick<ControlTarget, 'from' | 'to' | 'curve'> | null {
  const heard = lufs.filter((l): l is number => l !== null)
  if (heard.length < lufs.length || heard.length < 2) return null
  if (Math.max(...heard) - Math.min(...heard) <= EVEN_LU) return null
  const steps = Math.min(15, heard.length - 1)
  const wanted = Array.from({ length: steps + 1 }, (_, i) => {
    const at = (i / steps) * (heard.length - 1)
    const [below, above] = [heard[Math.floor(at)], heard[Math.ceil(at)]]
    const measured = below + (above - below) * (at - Math.floor(at))
    return Math.min(max, Math.max(min, level + heard[0] - measured))
  })
  const [low, high] = [Math.min(...wanted), Math.max(...wanted)]
  const points = wanted.map((db, i) => [i / steps, (db - low) / (high - low)] as const)
  return { from: low, to: high, curve: { shape: 'points', heel: 0, toe: 0, points } }
}
