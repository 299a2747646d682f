import { modelOf } from '@fulgor/core/catalogue'
import { partName, resolveStage, splitsOf, stagesOf, stripOf } from '@fulgor/core/preset'
import type { Check, Finding } from './finding'
import { grouped, listed } from './heard'

/** A wet stage below 100 % in a lane beside a dry one: the dry signal goes twice. */
export const dryInLane: Check = {
  id: 'dry-in-lane',
  why: 'In a lane of its own an effect is blended by the lane’s level; the dry sound has its own lane beside it. A mix below 100 % sends the dry signal through both: it becomes louder, and where the lanes differ by some samples it combs.',
  find(preset) {
    const hits = preset.snapshots.flatMap((snapshot) =>
      splitsOf(preset.chain).flatMap((split) => {
        const lanes = split.lanes.filter((lane) => resolveStage(preset, stripOf(lane), snapshot.id).on)
        const wet = lanes.filter((lane) => {
          const on = stagesOf(lane.nodes).filter((s) => resolveStage(preset, s, snapshot.id).on)
          return on.length > 0 && on.every((s) => modelOf(s.model).wet)
        })
        if (wet.length === 0 || wet.length === lanes.length) return []
        return wet.flatMap((lane) => {
          const [first] = stagesOf(lane.nodes).filter((s) => resolveStage(preset, s, snapshot.id).on)
          const { mix } = resolveStage(preset, first, snapshot.id).params
          return typeof mix === 'number' && mix < 100 ? [{ stage: first, snapshot, mix }] : []
        })
      }),
    )
    return grouped(hits, (h) => h.stage.id).map((same): Finding => {
      const [{ stage, mix }] = same
      return {
        rule: dryInLane.id,
        severity: 'note',
        where: [stage.id],
        snapshots: same.map((h) => h.snapshot.id),
        figure: `${partName(preset, stage.id)} is mixed at ${Math.round(mix)} % in a lane of its own in ${listed(same.map((h) => h.snapshot.name))}.`,
        amount: { value: 100 - mix, unit: '%', against: 'dry beside the dry lane' },
        reason: 'The dry sound goes through both lanes.',
        mends: [
          {
            label: 'Mix at 100 %',
            edits: same.map((h) => ({ type: 'setParam', stage: stage.id, snapshot: h.snapshot.id, param: 'mix', value: 100 })),
          },
        ],
      }
    })
  },
}
