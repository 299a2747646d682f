import type { Family, NumberSpec } from '@fulgor/core/catalogue'
import { firstNullHz } from '@fulgor/core/cabinet'
import { distanceOf, nearestNote } from '@fulgor/core/stage'
import { figure } from '../../ui/format'

/** Longer than this a late copy is heard as an echo and no longer as colour (common practice, no source). */
const DOUBLING_MS = 45

/** A time or a rate in the other scale: ms as a note value, short ones as a distance with their first null, rates and decays in beats. */
export function timeWords(family: Family, key: string, spec: NumberSpec, value: number, bpm: number): string | null {
  const beats = (seconds: number) => figure((seconds * bpm) / 60, 2)
  if (spec.unit === 'hz' && /rate|speed/i.test(key) && value > 0)
    return `one turn in ${beats(1 / value)} beats (${figure(1000 / value, 0)} ms)`
  if (spec.unit === 's' && key === 'decay') return `${beats(value)} beats until −60 dB`
  if (spec.unit !== 'ms' || value <= 0 || !/^(time\d?|preDelay|delay)$/.test(key)) return null
  if (value < DOUBLING_MS && family !== 'reverb') {
    const { metres, feet } = distanceOf(value)
    return `${figure(metres, 1)} m or ${figure(feet, 1)} ft of air; first null ${figure(firstNullHz(value * 1000), 0)} Hz`
  }
  const { name, offMs } = nearestNote(bpm, value)
  return Math.abs(offMs) < 0.5
    ? `${name} at ${figure(bpm, bpm % 1 ? 1 : 0)} bpm`
    : `${name} ${figure(offMs, Math.abs(offMs) < 10 ? 1 : 0, true)} ms`
}
