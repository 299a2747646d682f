import { formatValue, modelOf } from '@fulgor/core/catalogue'
import { findStage, partName } from '@fulgor/core/preset'
import type { Finding, SoundCheck } from './finding'
import { db, heardOf } from './heard'

/** dB under which nobody hears a difference in loudness, dynamics or shape (common practice, no source). */
const UNHEARD = 0.5

/** A drive in front of so much gain that nothing of it arrives. */
export const driveChangesNothing: SoundCheck = {
  id: 'drive-changes-nothing',
  why: 'What an amp clips hard anyway sounds the same with a drive before it: only noise and feedback grow. A drive earns its place by what it takes away before the amp, lows above all, or where the amp has headroom left.',
  find(heard) {
    const { preset } = heard
    return heardOf(heard).flatMap(({ snapshot, reading }) =>
      reading.turned.flatMap(({ stage, param, changeDb }): Finding[] => {
        if (param !== null || changeDb >= UNHEARD) return []
        return [
          {
            rule: driveChangesNothing.id,
            severity: 'note',
            where: [stage],
            snapshots: [snapshot.id],
            figure: `With ${partName(preset, stage)} off nothing changes by more than ${db(changeDb)} dB in ${snapshot.name}: loudness, dynamics, spectrum.`,
            amount: { value: UNHEARD - changeDb, unit: 'dB' },
            reason: 'What it does is evened out behind it; its noise is not.',
            mends: [{ label: 'Off here', edits: [{ type: 'setOn', stage, snapshot: snapshot.id, on: false }] }],
          },
        ]
      }),
    )
  },
}

/** A knob whose last part does nothing any more. */
export const deadTravel: SoundCheck = {
  id: 'dead-travel',
  why: 'Many gains do all of their work in the lower part of their travel: from there on the sound stays the same and the noise grows. Turned down to where it begins to change, it sounds alike, is quieter at rest and can be fine-tuned.',
  find(heard) {
    const { preset } = heard
    return heardOf(heard).flatMap(({ snapshot, reading }) =>
      reading.turned.flatMap(({ stage, param, value, changeDb }): Finding[] => {
        const node = findStage(preset, stage)
        if (param === null || !node || changeDb >= UNHEARD) return []
        const spec = modelOf(node.model).params[param]
        if (spec.kind !== 'number') return []
        const to = formatValue(spec, value)
        return [
          {
            rule: deadTravel.id,
            severity: 'note',
            where: [stage],
            snapshots: [snapshot.id],
            figure: `${spec.label} of ${partName(preset, stage)} at ${to} changes nothing by more than ${db(changeDb)} dB in ${snapshot.name}.`,
            amount: { value: UNHEARD - changeDb, unit: 'dB' },
            reason: 'It stands in its dead travel: only the noise grows there.',
            mends: [{ label: `${spec.label} at ${to}`, edits: [{ type: 'setParam', stage, snapshot: snapshot.id, param, value }] }],
          },
        ]
      }),
    )
  },
}
