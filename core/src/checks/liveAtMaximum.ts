import { modelOf, toTravel } from '@fulgor/core/catalogue'
import { findStage, targetValue } from '@fulgor/core/preset'
import { assignmentsOf, liveIn, names, paramWords } from './control'
import type { Check, Finding } from './finding'

/** Share of a range from which on a level, gain or feedback counts as full. */
const FULL = 0.9
const LOUD = /^(level\d?|gain|master|feedback\d?|mix|sustain|boost|drive)$/

/** A source that rests where something is full up brings it full up whenever a snapshot loads. */
export const liveAtMaximum: Check = {
  id: 'live-at-maximum',
  why: 'A pedal comes with its position when a snapshot loads. Where that is full up, the first note comes at full tilt. Pickup makes it wait until the foot passes the stored value.',
  find(preset) {
    return assignmentsOf(preset).flatMap(({ control, target }): Finding[] => {
      const stage = findStage(preset, target.stage)
      const spec = stage && target.param !== 'on' ? modelOf(stage.model).params[target.param] : undefined
      if (!stage || spec?.kind !== 'number' || !LOUD.test(target.param) || control.onSnapshot !== 'jump' || control.kind === 'lfo')
        return []
      const live = liveIn(preset, target)
      const at = Number(targetValue(spec, target, control.rest))
      if (live.length === 0 || toTravel(spec, at) < FULL) return []
      const away = control.rest >= 0.5 ? 0 : 1
      return [
        {
          rule: liveAtMaximum.id,
          severity: 'warning',
          where: [stage.id],
          controls: [control.id],
          figure: `${control.name} rests with ${paramWords(preset, target)} full up, and takes it there whenever ${names(live)} loads.`,
          reason: 'The first note comes at full tilt if the pedal was left there.',
          mends: [
            { label: 'Wait for pickup', edits: [{ type: 'changeControl', control: control.id, change: { onSnapshot: 'pickup' } }] },
            {
              label: away === 0 ? 'Rest at the heel' : 'Rest at the toe',
              edits: [{ type: 'changeControl', control: control.id, change: { rest: away } }],
            },
          ],
        },
      ]
    })
  },
}
