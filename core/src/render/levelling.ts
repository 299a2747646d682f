/** Where a search for a loudness ended. */
export interface Solved {
  readonly value: number
  /** LU above the target that remain. */
  readonly residual: number
  /** True when the range ended before the target. */
  readonly limited: boolean
}

const ROUNDS = 14
/** LUFS that silence on the way counts as. */
const SILENT = -120

/**
 * Searches the value at which a measured loudness meets its target. What follows may compress, so it is found by regula falsi with
 * slopes held to what a level or a master can do, halving the rest of the range where they mislead, in at most fourteen
 * measurements. A generator, so that a measurement may take its time: it yields a value and is given the LUFS there, null for silence.
 * @param slope LU that the loudness rises by for one unit, to begin with
 * @param close LU within which the search ends
 * @throws RangeError when it is silent at the start: silence has no loudness
 */
export function* loudnessSearch(
  start: number,
  range: { readonly min: number; readonly max: number },
  target: number,
  { slope = 1, close = 0.05 } = {},
): Generator<number, Solved, number | null> {
  const { min, max } = range
  const clamp = (value: number) => Math.min(max, Math.max(min, value))
  let a = clamp(start)
  const first = yield a
  if (first === null) throw new RangeError('There is nothing to measure: the riff is silent here.')
  let fa = first - target
  let best = { at: a, f: fa }
  /** Last values found too soft and too loud; once there are both, the search stays between them. */
  let soft = fa < 0 ? a : null
  let loud = fa < 0 ? null : a
  let b = clamp(a - fa / slope)
  for (let round = 1; round < ROUNDS && Math.abs(best.f) > close && b !== a; round++) {
    const fb = ((yield b) ?? SILENT) - target
    if (Math.abs(fb) < Math.abs(best.f)) best = { at: b, f: fb }
    if (fb < 0) soft = b
    else loud = b
    // a saturated rest of the chain answers little: steps then grow, within the range
    const local = Math.max(0.05 * slope, Math.min(4 * slope, (fb - fa) / (b - a)))
    a = b
    fa = fb
    const next = clamp(a - fa / local)
    const strayed = soft !== null && loud !== null && (next - soft) * (next - loud) >= 0
    b = strayed ? 0.5 * ((soft ?? a) + (loud ?? a)) : next
  }
  const value = Math.round(best.at * 1000) / 1000
  return { value, residual: best.f, limited: Math.abs(best.f) > 2 * close && (best.at === min || best.at === max) }
}

/** Runs a search whose measurements are there at once. */
export function solved<R>(search: Generator<number, R, number | null>, measure: (value: number) => number | null): R {
  let step = search.next(null)
  while (!step.done) step = search.next(measure(step.value))
  return step.value
}

/** A {@link loudnessSearch} whose measurements are there at once. */
export function solveLoudness(
  start: number,
  range: { readonly min: number; readonly max: number },
  target: number,
  measure: (value: number) => number | null,
  options: { slope?: number; close?: number } = {},
): Solved {
  return solved(loudnessSearch(start, range, target, options), measure)
}
