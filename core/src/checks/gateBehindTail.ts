import { modelOf } from '@fulgor/core/catalogue'
import { partName, placeOf, resolveStage, stagesOf } from '@fulgor/core/preset'
import type { Check, Finding } from './finding'
import { grouped, listed } from './heard'

/** A gate behind delay or reverb cuts their tails. */
export const gateBehindTail: Check = {
  id: 'gate-behind-tail',
  why: 'A gate closes on what falls below its threshold, and the tail of a delay or reverb falls slowly. Behind them it cuts tails off in the middle; before them it keeps noise out of them. A gated reverb is made just this way, on purpose.',
  find(preset) {
    const stages = stagesOf(preset.chain)
    const hits = preset.snapshots.flatMap((snapshot) =>
      stages.flatMap((gate, i) => {
        if (modelOf(gate.model).family !== 'gate') return []
        const { on, params } = resolveStage(preset, gate, snapshot.id)
        const tail = stages.slice(0, i).find((s) => modelOf(s.model).trails && resolveStage(preset, s, snapshot.id).on)
        return on && tail && params.key === 'own' ? [{ gate, tail, snapshot }] : []
      }),
    )
    return grouped(hits, (h) => `${h.gate.id} ${h.tail.id}`).map((same): Finding => {
      const [{ gate, tail }] = same
      const place = placeOf(preset, tail.id)
      return {
        rule: gateBehindTail.id,
        severity: 'warning',
        where: [gate.id],
        snapshots: same.map((h) => h.snapshot.id),
        figure: `${partName(preset, gate.id)} stands behind ${partName(preset, tail.id)} in ${listed(same.map((h) => h.snapshot.name))}.`,
        reason: 'It cuts the tail off where it falls below the threshold.',
        mends: [
          ...(place
            ? [
                {
                  label: `Move it before ${partName(preset, tail.id)}`,
                  edits: [{ type: 'moveStage', stage: gate.id, lane: place.lane, index: place.index } as const],
                },
              ]
            : []),
          {
            label: 'Let it listen to the dry guitar',
            edits: [{ type: 'setParam', stage: gate.id, snapshot: null, param: 'key', value: 'dry' }],
          },
        ],
      }
    })
  },
}
