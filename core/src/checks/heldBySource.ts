import { holderOf } from '@fulgor/core/board'
import { functionsOf, isLive, partName, type Edit, type Preset } from '@fulgor/core/preset'
import { names, notIn } from './control'
import { placeWords } from './freeSwitch'
import type { Check, Finding } from './finding'

/** A switch for a stage that a source turns on and off: while the source acts, the foot does nothing. */
export const heldBySource: Check = {
  id: 'held-by-source',
  why: 'A stage can be switched by a foot and by a source. While the source holds it the foot does nothing, which on stage looks like a broken switch.',
  find(preset) {
    return (preset.board?.switches ?? []).flatMap((own): Finding[] =>
      functionsOf(own).flatMap(({ gesture, fn }): Finding[] => {
        if (fn.do !== 'stages') return []
        return fn.stages.flatMap((stage): Finding[] => {
          const held = preset.snapshots.filter((s) => holderOf(preset, stage, s.id) !== undefined)
          if (held.length === 0) return []
          const holder = holderOf(preset, stage, held[0].id)
          const left = fn.stages.filter((s) => s !== stage)
          const off: Edit = { type: 'changeSwitch', id: own.id, change: { [gesture]: left.length === 0 ? null : { ...fn, stages: left } } }
          return [
            {
              rule: heldBySource.id,
              severity: 'warning',
              where: [stage],
              controls: holder ? [holder.id] : [],
              figure: `${placeWords(own)}, switches ${partName(preset, stage)}; in ${names(held)} ${holder?.name ?? 'a source'} holds it.`,
              reason: 'The source wins there, and the foot does nothing.',
              mends: [
                { label: `Take ${partName(preset, stage)} off the switch`, edits: [off] },
                { label: 'Leave it to the foot there', edits: released(preset, stage) },
              ],
            },
          ]
        })
      }),
    )
  },
}

/** No source turns the stage on and off any more. */
const released = (preset: Preset, stage: string): readonly Edit[] =>
  (preset.controls ?? []).flatMap((control) =>
    control.targets
      .filter((t) => t.stage === stage && t.param === 'on')
      .map((target) =>
        notIn(
          preset,
          { control, target },
          preset.snapshots.filter((s) => isLive(target, s.id)),
        ),
      ),
  )
