import { modelOf } from '@fulgor/core/catalogue'
import { findStage, resolveStage, type Edit } from '@fulgor/core/preset'
import { assignmentsOf, liveIn, names, paramWords } from './control'
import type { Check, Finding } from './finding'

/** A time that follows the tempo by a note value does not hear a source that moves its ms. */
export const movedSyncedTime: Check = {
  id: 'moved-synced-time',
  why: 'A time that follows a note value is worked out from the tempo. A pedal that moves its milliseconds is not heard until the note value is set free.',
  find(preset) {
    return assignmentsOf(preset).flatMap(({ control, target }): Finding[] => {
      const stage = findStage(preset, target.stage)
      const note = stage && modelOf(stage.model).sync?.find((s) => s.time === target.param)?.note
      if (!stage || note === undefined) return []
      const held = liveIn(preset, target).filter((s) => resolveStage(preset, stage, s.id).params[note] !== 'free')
      if (held.length === 0) return []
      const everywhere = held.length === preset.snapshots.length
      const free: Edit[] = [
        ...(everywhere ? [{ type: 'setParam', stage: stage.id, snapshot: null, param: note, value: 'free' } as const] : []),
        ...held.map((s) => ({ type: 'setParam', stage: stage.id, snapshot: s.id, param: note, value: 'free' }) as const),
      ]
      return [
        {
          rule: movedSyncedTime.id,
          severity: 'warning',
          where: [stage.id],
          controls: [control.id],
          figure: `${control.name} moves ${paramWords(preset, target)}, which follows a note value in ${names(held)}.`,
          reason: 'The note value wins: the source does nothing there.',
          mends: [
            { label: 'Free it from the tempo', edits: free },
            { label: 'Take the assignment off', edits: [{ type: 'removeTarget', control: control.id, target: target.id }] },
          ],
        },
      ]
    })
  },
}
