import { modelOf } from '@fulgor/core/catalogue'
import { clippingBehind, placeOf, resolveStage, stagesOf, type Edit } from '@fulgor/core/preset'
import type { Finding, SoundCheck } from './finding'
import { db, heardOf } from './heard'

/** dB that a partial may stand out of its note by more than the guitar gives it, and the deepest cut that is proposed (common practice, no source). */
const HARSH = 8
const DEEPEST = 9

/** A single note that jumps out. */
export const harshNotes: SoundCheck = {
  id: 'harsh-notes',
  why: 'A narrow resonance between 1.6 and 2.5 kHz is not heard in a chord: but the one note of a line that has a partial there jumps out. It comes from a loudspeaker, a microphone or a boost. It is found by playing single notes up the neck, and cut narrowly where it is.',
  find(heard, newId) {
    const { preset } = heard
    return heardOf(heard).flatMap(({ snapshot, reading }): Finding[] => {
      const { neck } = reading
      if (!neck || neck.db < HARSH) return []
      const stages = stagesOf(preset.chain)
      const free = stages.findLast((s) => {
        const { on, params } = resolveStage(preset, s, snapshot.id)
        // before what clips a cut would do another thing
        return on && s.model === 'eq.parametric' && params.gain3 === 0 && !clippingBehind(preset, snapshot.id, s.id)
      })
      const cabinet = stages.findLast((s) => modelOf(s.model).family === 'cabinet')
      const place = cabinet && placeOf(preset, cabinet.id)
      const id = free?.id ?? newId()
      const hz = Math.round(neck.hz)
      const cut = Math.min(DEEPEST, Math.round(neck.db * 5) / 10)
      const set = (param: string, value: number): Edit => ({ type: 'setParam', stage: id, snapshot: snapshot.id, param, value })
      const add: Edit[] =
        free || !place ? [] : [{ type: 'addStage', stage: id, model: 'eq.parametric', lane: place.lane, index: place.index + 1 }]
      return [
        {
          rule: harshNotes.id,
          severity: 'note',
          where: free ? [free.id] : cabinet ? [cabinet.id] : [],
          snapshots: [snapshot.id],
          hz,
          figure: `${neck.note} jumps out by ${db(neck.db)} dB at ${hz} Hz when single notes are played up the neck in ${snapshot.name}.`,
          amount: { value: neck.db, unit: 'dB', against: `up to ${HARSH}` },
          reason: 'One note of a line is harsher than the others.',
          mends:
            free || place
              ? [{ label: `Cut ${db(cut)} dB narrowly at ${hz} Hz`, edits: [...add, set('bell3', hz), set('q3', 4), set('gain3', -cut)] }]
              : [],
        },
      ]
    })
  },
}
