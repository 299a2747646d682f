import { formatValue, type ParamSpec } from '@fulgor/core/catalogue'
import { cellChanges, findStage, resolveStage, targetSpec, targetValue } from '@fulgor/core/preset'
import { assignmentsOf, liveIn, notIn, paramWords } from './control'
import type { Check, Finding } from './finding'

/** How far apart two values of a number may lie and still be the same to the ear, as a share of its range. */
const ALIKE = 0.02

function differs(spec: ParamSpec | null, stored: unknown, moved: unknown): boolean {
  if (spec?.kind === 'number') return Math.abs(Number(stored) - Number(moved)) > ALIKE * (spec.max - spec.min)
  return spec === null ? Boolean(stored) !== Number(moved) >= 0.5 : stored !== moved
}

/** A snapshot that stores another value than its source gives where it rests: one of the two is a surprise. */
export const storedUnderSource: Check = {
  id: 'stored-under-source',
  why: 'A snapshot stores a value, and a source moves it as soon as the snapshot loads. What was stored is heard at no time unless the source rests just there.',
  find(preset) {
    return assignmentsOf(preset).flatMap(({ control, target }): Finding[] => {
      const stage = findStage(preset, target.stage)
      const spec = targetSpec(preset, target)
      if (!stage || spec === undefined || control.onSnapshot === 'pickup') return []
      return liveIn(preset, target).flatMap((snapshot): Finding[] => {
        if (!cellChanges(preset, stage, snapshot.id).some((c) => c.key === target.param)) return []
        const values = resolveStage(preset, stage, snapshot.id)
        const stored = target.param === 'on' ? values.on : values.params[target.param]
        const moved = targetValue(spec, target, control.rest)
        if (!differs(spec, stored, moved)) return []
        const words = (v: unknown) =>
          spec ? formatValue(spec, v as string | number) : (typeof v === 'boolean' ? v : Number(v) >= 0.5) ? 'on' : 'off'
        const jump = control.onSnapshot === 'jump'
        return [
          {
            rule: storedUnderSource.id,
            severity: jump ? 'note' : 'warning',
            where: [stage.id],
            controls: [control.id],
            figure: `“${snapshot.name}” stores ${words(stored)} for ${paramWords(preset, target)}; ${control.name} gives ${words(moved)} where it rests.`,
            reason: jump
              ? 'The source wins when the snapshot loads: what is stored is never heard.'
              : 'It jumps when the source is first moved.',
            mends: [
              { label: 'Wait for pickup', edits: [{ type: 'changeControl', control: control.id, change: { onSnapshot: 'pickup' } }] },
              jump
                ? { label: `Not live in “${snapshot.name}”`, edits: [notIn(preset, { control, target }, [snapshot])] }
                : {
                    label: 'The source wins on recall',
                    edits: [
                      { type: 'changeControl', control: control.id, change: { onSnapshot: 'jump' } },
                      { type: 'resetCell', stage: stage.id, snapshot: snapshot.id, param: target.param },
                    ],
                  },
            ],
          },
        ]
      })
    })
  },
}
