import { modelOf } from '@fulgor/core/catalogue'

/** Where a stage's level leads when it is to leave the loudness as it is without the stage. */
export interface Unity {
  /** dB, in the range of the stage's level. */
  readonly level: number
  /** LU that remain between on and off. */
  readonly residual: number
  /** True when the range of the level ended before. */
  readonly limited: boolean
}

/** LU within which on and off count as equal. */
const CLOSE = 0.05

/**
 * Searches the level at which a stage is as loud on as off. What follows may compress, so the level is found by regula falsi on the
 * measured loudness, in at most eight renders.
 * @param level the stage's present level, dB
 * @param off LUFS with the stage off
 * @param on LUFS with the stage on at a level
 * @throws RangeError when nothing is heard with the stage on or off: silence has no loudness
 */
export function unityLevel(level: number, off: number | null, on: (level: number) => number | null, model: string): Unity {
  const spec = modelOf(model).params.level
  if (spec.kind !== 'number') throw new RangeError('This stage has no level.')
  const { min, max } = spec
  const excess = (at: number): number => {
    const lufs = on(at)
    if (lufs === null || off === null) throw new RangeError('There is nothing to measure: with this stage on or off the riff is silent.')
    return lufs - off
  }
  const clamp = (value: number) => Math.min(max, Math.max(min, value))
  let a = clamp(level)
  let fa = excess(a)
  let b = clamp(a - fa)
  for (let round = 0; round < 7 && Math.abs(fa) > CLOSE && b !== a; round++) {
    const fb = excess(b)
    // a saturated rest of the chain answers little: steps then grow, within the range
    const slope = Math.max(0.05, Math.min(1.2, (fb - fa) / (b - a)))
    a = b
    fa = fb
    b = clamp(a - fa / slope)
  }
  const rounded = Math.round(a * 100) / 100
  return { level: rounded, residual: fa, limited: Math.abs(fa) > 2 * CLOSE && (a === min || a === max) }
}
