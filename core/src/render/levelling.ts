/** Where a search for a loudness ended. */
export interface Solved {
  readonly value: number
  /** LU above the target that remain. */
  readonly residual: number
  /** True when the range ended before the target. */
  readonly limited: boolean
}

const ROUNDS = 8

/**
 * Searches the value at which a measured loudness meets its target. What follows may compress, so it is found by regula falsi with
 * slopes held to what a level or a master can do, in at most eight measurements.
 * @param slope LU that the loudness rises by for one unit, to begin with
 * @param close LU within which the search ends
 * @throws RangeError when it is silent: silence has no loudness
 */
export function solveLoudness(
  start: number,
  range: { readonly min: number; readonly max: number },
  target: number,
  measure: (value: number) => number | null,
  { slope = 1, close = 0.05 } = {},
): Solved {
  const { min, max } = range
  const clamp = (value: number) => Math.min(max, Math.max(min, value))
  const excess = (at: number): number => {
    const lufs = measure(at)
    if (lufs === null) throw new RangeError('There is nothing to measure: the riff is silent here.')
    return lufs - target
  }
  let a = clamp(start)
  let fa = excess(a)
  let best = { at: a, f: fa }
  let b = clamp(a - fa / slope)
  for (let round = 1; round < ROUNDS && Math.abs(best.f) > close && b !== a; round++) {
    const fb = excess(b)
    if (Math.abs(fb) < Math.abs(best.f)) best = { at: b, f: fb }
    // a saturated rest of the chain answers little: steps then grow, within the range
    const local = Math.max(0.05 * slope, Math.min(4 * slope, (fb - fa) / (b - a)))
    a = b
    fa = fb
    b = clamp(a - fa / local)
  }
  const value = Math.round(best.at * 100) / 100
  return { value, residual: best.f, limited: Math.abs(best.f) > 2 * close && (best.at === min || best.at === max) }
}
