import { toTravel, type ParamSpec } from '@fulgor/core/catalogue'
import type { ParamValue } from '@fulgor/core/signal'
import { targetValue } from './controls'
import type { Control, ControlTarget } from './description'

/** LU between two neighbouring points that can be heard as a jump (common practice, no source). */
const JUMP_LU = 1.5
/** How many times the mean step a step must be: a travel from silence to full has large steps all the way, and no jump. */
const JUMP_RATIO = 3
/** LU under the loudest point from which on a step lies too low to be heard as one (common practice, no source). */
const LOW_LU = 20

/** The largest jump of the loudness between two neighbouring points of a travel; null where it has none. */
export function loudnessJump(lufs: readonly (number | null)[]): { at: number; by: number } | null {
  const loudest = Math.max(...lufs.filter((l) => l !== null))
  const steps = lufs.flatMap((l, i) => {
    const before = lufs[i - 1] ?? null
    return l === null || before === null ? [] : [{ at: i, by: l - before, louder: Math.max(l, before) }]
  })
  const mean = steps.reduce((sum, { by }) => sum + Math.abs(by), 0) / steps.length
  const heard = steps.filter(({ louder }) => louder >= loudest - LOW_LU)
  if (heard.length === 0) return null
  const { at, by } = heard.reduce((a, b) => (Math.abs(b.by) > Math.abs(a.by) ? b : a))
  return Math.abs(by) > Math.max(JUMP_LU, JUMP_RATIO * mean) ? { at, by } : null
}

/** Place of a value on the range of its parameter, 0–1. */
export function placeOfValue(spec: ParamSpec | null | undefined, value: ParamValue): number {
  if (!spec) return Number(value)
  if (spec.kind === 'number') return toTravel(spec, Number(value))
  return spec.options.findIndex((o) => o.value === value) / Math.max(1, spec.options.length - 1)
}

/** Twentieths of the travel over which a target stands still, 0–20. */
export function stillTwentieths(spec: ParamSpec | null, target: Pick<ControlTarget, 'from' | 'to' | 'curve'>): number {
  const at = Array.from({ length: 21 }, (_, i) => placeOfValue(spec, targetValue(spec, target, i / 20)))
  return at.slice(1).filter((v, i) => Math.abs(v - at[i]) < 1e-4).length
}

/**
 * dB that the dry input lies below the toe's where a source stands that listens to it: whoever turns the guitar down, or plays softer, moves
 * the source and the sound alike. Others leave the input alone.
 */
export const inputDbAt = ({ kind, low, high }: Pick<Control, 'kind' | 'low' | 'high'>, position: number): number =>
  kind === 'volume' || kind === 'envelope' ? (position - 1) * (high - low) : 0
