import { modelOf } from '@fulgor/core/catalogue'
import { resolveStage, stagesOf } from '@fulgor/core/preset'
import type { Check, Finding } from './finding'
import { grouped, listed } from './heard'

/** Two modulations at once: they beat against each other. */
export const twoModulations: Check = {
  id: 'two-modulations',
  why: 'Two modulations at different rates beat against each other, and what each does is hard to hear. Textures are made of it. In a part that must be understood one of them is usually enough.',
  find(preset) {
    const hits = preset.snapshots.flatMap((snapshot) => {
      const on = stagesOf(preset.chain).filter((s) => {
        const { on, params } = resolveStage(preset, s, snapshot.id)
        return on && modelOf(s.model).family === 'modulation' && params.mix !== 0
      })
      return on.length > 1 && snapshot.role !== 'effect' && snapshot.role !== 'ambience' ? [{ snapshot, on }] : []
    })
    return grouped(hits, (h) => h.on.map((s) => s.id).join(' ')).map((same): Finding => ({
      rule: twoModulations.id,
      severity: 'note',
      where: same[0].on.map((s) => s.id),
      snapshots: same.map((h) => h.snapshot.id),
      figure: `${listed(same[0].on.map((s) => modelOf(s.model).name))} move at once in ${listed(same.map((h) => h.snapshot.name))}.`,
      reason: 'They beat against each other.',
      mends: same[0].on.map((s) => ({
        label: `Without ${modelOf(s.model).name}`,
        edits: same.map((h) => ({ type: 'setOn', stage: s.id, snapshot: h.snapshot.id, on: false })),
      })),
    }))
  },
}
