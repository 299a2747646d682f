import { CEILING_DBTP } from '@fulgor/core/measure'
import { findLane, partName, resolveStage, stripOf, type Edit, type Preset } from '@fulgor/core/preset'
import type { Finding, SoundCheck } from './finding'
import { db, heardOf } from './heard'
import { laneDelays } from './laneDelays'
import { exactTrim, lowered } from './overCeiling'

/** dB that two lanes together may lie below what unrelated sounds of their levels give (common practice, no source). */
const LOSS = 1.5
/** Two lanes that are less alike than this only add up; nothing between them is put in time. */
const ALIKE = 0.5
/** dB of two equal sounds in step over the sum of their powers. */
const IN_STEP = 3.01
/** Samples in a ms, at the rate that presets are read at. */
const PER_MS = 48

/** Two lanes that take from each other where they are summed. */
export const laneCancels: SoundCheck = {
  id: 'lane-cancels',
  why: 'The same guitar goes through both lanes. Where one of them lies the other way round, or comes a little later, parts of the sum vanish: the lows when a polarity is turned, a comb of notches when one is late. Turned or delayed until they are most alike, they add up again.',
  find(heard) {
    const { preset } = heard
    return heardOf(heard).flatMap(({ snapshot, reading }) =>
      reading.lanes.flatMap(({ lanes: [first, second], lateMs, inverted, alike, sumDb }): Finding[] => {
        if (sumDb > -LOSS) return []
        const ms = Math.abs(lateMs)
        const apart = ms >= 1 / PER_MS
        const [a, b] = [first, second].map((id) => partName(preset, id))
        const turn: Edit[] = inverted
          ? [{ type: 'setParam', stage: second, snapshot: snapshot.id, param: 'polarity', value: turned(preset, second, snapshot.id) }]
          : []
        const late = apart ? [{ lane: lateMs > 0 ? first : second, snapshot: snapshot.id, ms }] : []
        // in step, two lanes add up to 3 dB over their powers at most: what that would bring over the ceiling goes down before
        const over = (reading.output.truePeakDbtp ?? -200) + IN_STEP - sumDb - CEILING_DBTP
        const trim = over > 0 ? exactTrim(preset) : null
        const label = [
          ...(inverted ? ['Turn its polarity'] : []),
          ...(apart ? [`${ms.toFixed(2)} ms into time`] : []),
          ...(trim ? [`${db(over)} dB down`] : []),
        ].join(', ')
        const facts = [
          ...(inverted ? [`${b} lies the other way round.`] : []),
          ...(apart ? [`${b} comes ${ms.toFixed(2)} ms (${Math.round(ms * PER_MS)} samples) ${lateMs > 0 ? 'later' : 'earlier'}.`] : []),
        ]
        return [
          {
            rule: laneCancels.id,
            severity: 'warning',
            where: [first, second],
            snapshots: [snapshot.id],
            figure: [
              `${a} and ${b} together are ${db(-sumDb)} dB softer than their powers add up to in ${snapshot.name}.`,
              ...(alike > ALIKE ? facts : []),
            ].join(' '),
            amount: { value: -sumDb, unit: 'dB', against: `up to ${LOSS}` },
            reason: 'They cancel each other in the sum.',
            mends:
              alike > ALIKE && (inverted || apart)
                ? laneDelays(preset, label, late, trim ? [...turn, lowered(preset, trim, snapshot.id, over)] : turn)
                : [],
          },
        ]
      }),
    )
  },
}

function turned(preset: Preset, lane: string, snapshot: string): 'normal' | 'inverted' {
  const found = findLane(preset, lane)
  return found && resolveStage(preset, stripOf(found.lane), snapshot).params.polarity === 'inverted' ? 'normal' : 'inverted'
}
