import { modelOf } from '@fulgor/core/catalogue'
import { partName, resolveStage, splitsOf, stagesOf, stripOf } from '@fulgor/core/preset'
import type { Check, Finding } from './finding'
import { db, grouped, listed } from './heard'
import { laneDelays } from './laneDelays'

/** ms by which lanes may differ before the attack splits (precedence: about 1 ms moves and colours it; Blauert, Spatial Hearing, 1997, from memory). */
const LATE = 1

/** A lane that comes late because of what stands in it, with what its strips are delayed by. */
export const lateLane: Check = {
  id: 'late-lane',
  why: 'A shifted voice must listen before it can sing: pitch stages come some ms late. Beside a lane without them the sum combs, or the attack doubles. The same stage at 0 semitones in the other lane would put both in time; some like the spread.',
  find(preset) {
    const late = (nodes: Parameters<typeof stagesOf>[0], snapshot: string) =>
      stagesOf(nodes).reduce((sum, s) => {
        const { on, params } = resolveStage(preset, s, snapshot)
        const whole = typeof params.mix !== 'number' || params.mix === 100
        return on && whole ? sum + (modelOf(s.model).latencyMs ?? 0) : sum
      }, 0)
    const hits = preset.snapshots.flatMap((snapshot) =>
      splitsOf(preset.chain).flatMap((split) => {
        const lanes = split.lanes
          .filter((lane) => resolveStage(preset, stripOf(lane), snapshot.id).on)
          .map((lane) => {
            const { delay } = resolveStage(preset, stripOf(lane), snapshot.id).params
            const latency = late(lane.nodes, snapshot.id)
            return { lane, latency, ms: latency + Number(delay) }
          })
        const first = Math.min(...lanes.map((l) => l.ms))
        const early = lanes.filter((l) => l.ms === first).map((l) => l.lane)
        return lanes.filter((l) => l.latency > 0 && l.ms - first > LATE).map((l) => ({ lane: l.lane, ms: l.ms - first, early, snapshot }))
      }),
    )
    return grouped(hits, (h) => h.lane.id).map((same): Finding => {
      const [{ lane, ms }] = same
      return {
        rule: lateLane.id,
        severity: 'note',
        where: [lane.id],
        snapshots: same.map((h) => h.snapshot.id),
        figure: `${partName(preset, lane.id)} comes ${db(ms)} ms after the lane beside it in ${listed(same.map((h) => h.snapshot.name))}.`,
        amount: { value: ms, unit: 'ms', against: `up to ${LATE}` },
        reason: 'Both together comb, or the attack is doubled.',
        mends: laneDelays(
          preset,
          `The lane beside it ${db(ms)} ms later`,
          same.flatMap((h) => h.early.map((other) => ({ lane: other.id, snapshot: h.snapshot.id, ms: h.ms }))),
        ),
      }
    })
  },
}
