import { modelOf } from '@fulgor/core/catalogue'
import { partName, resolveStage, stagesOf } from '@fulgor/core/preset'
import type { Check, Finding } from './finding'

/** A delay or reverb that is on in one snapshot, off in another, and does not ring out. */
export const tailCut: Check = {
  id: 'tail-cut',
  why: 'When a snapshot switches an effect off, its tail can ring out or end at once. Cut tails are heard as a hole in the change. A hard stop may be just what the song wants.',
  find(preset) {
    return stagesOf(preset.chain).flatMap((stage): Finding[] => {
      if (!modelOf(stage.model).trails) return []
      const states = preset.snapshots.map((s) => ({ snapshot: s, ...resolveStage(preset, stage, s.id) }))
      const cut = states.filter((s) => !s.on && s.params.trails === 'off')
      if (cut.length === 0 || !states.some((s) => s.on)) return []
      return [
        {
          rule: tailCut.id,
          severity: 'note',
          where: [stage.id],
          figure: `${partName(preset, stage.id)} ends at once when ${cut.length === 1 ? `“${cut[0].snapshot.name}”` : `one of ${cut.length} snapshots`} switches it off.`,
          reason: 'Its tail is cut in the change.',
          mends: [
            {
              label: 'Let it ring out',
              edits: [
                { type: 'setParam', stage: stage.id, snapshot: null, param: 'trails', value: 'on' },
                ...cut
                  .filter((s) => s.snapshot.stages[stage.id]?.params?.trails !== undefined)
                  .map((s) => ({ type: 'setParam', stage: stage.id, snapshot: s.snapshot.id, param: 'trails', value: 'on' }) as const),
              ],
              safe: true,
            },
          ],
        },
      ]
    })
  },
}
