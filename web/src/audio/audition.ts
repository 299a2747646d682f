import type { Plan } from '@fulgor/core/render'
import type { Audition } from '../state/player'

/** A candidate in place of what a cabinet plays, as loud as that. */
export function withAudition(values: Plan['values'], audition: Audition | null): Plan['values'] {
  if (!audition || !(audition.stage in values)) return values
  const { params } = values[audition.stage]
  const level = Math.min(20, Math.max(-30, Number(params.level) + audition.gainDb))
  return { ...values, [audition.stage]: { on: true, params: { ...params, response: audition.response, level } } }
}
