import { modelOf } from '@fulgor/core/catalogue'
import { partName, resolveStage, riffOf, stagesOf, type Edit } from '@fulgor/core/preset'
import { STROKE_DB } from '@fulgor/core/riffs'
import type { SoundCheck } from './finding'
import { db, grouped, heardOf, listed } from './heard'
import { inputLevel } from './inputLevel'

/** dB under the loudest soft stroke that a gate must still let through: single notes of it. */
const ROOM = 12

/** A gate above soft picking swallows notes. */
export const gateClipsSoft: SoundCheck = {
  id: 'gate-clips-soft',
  why: 'A soft stroke of this guitar is some 11 dB softer than a hard one, and a single note of it softer still. A gate that opens above that cuts notes that were played. Tight stops want a high threshold; there a gate keyed from the dry guitar loses less.',
  find(heard) {
    const { preset } = heard
    const hits = heardOf(heard).flatMap(({ snapshot, reading }) =>
      stagesOf(preset.chain).flatMap((stage) => {
        if (modelOf(stage.model).family !== 'gate') return []
        const { on, params } = resolveStage(preset, stage, snapshot.id)
        const peak = params.key === 'dry' ? reading.guitar.peakDbfs : inputLevel(preset, reading, stage.id)
        if (!on || peak === null) return []
        const soft = peak + STROKE_DB.soft - STROKE_DB[riffOf(preset, snapshot.id).strength] - ROOM
        const over = Number(params.threshold) - soft
        return over > 0 ? [{ stage, snapshot, over, soft, threshold: Number(params.threshold) }] : []
      }),
    )
    return grouped(hits, (h) => h.stage.id).map((same) => {
      const worst = same.reduce((a, b) => (b.over > a.over ? b : a))
      const edits = same.map(({ stage, snapshot, soft }): Edit => ({
        type: 'setParam',
        stage: stage.id,
        snapshot: snapshot.id,
        param: 'threshold',
        value: Math.max(-90, Math.floor(soft)),
      }))
      return {
        rule: gateClipsSoft.id,
        severity: 'warning',
        where: [worst.stage.id],
        snapshots: same.map((h) => h.snapshot.id),
        figure: `${partName(preset, worst.stage.id)} opens at ${db(worst.threshold)} dBFS in ${listed(same.map((h) => h.snapshot.name))}; softly picked notes peak near ${db(worst.soft)}.`,
        amount: { value: worst.over, unit: 'dB', against: 'over soft notes' },
        reason: 'Soft notes do not open it.',
        mends: [{ label: `Open at ${db(Math.floor(worst.soft))}`, edits }],
      }
    })
  },
}
