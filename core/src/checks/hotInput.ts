import { partName, resolveStage, stagesOf } from '@fulgor/core/preset'
import { modelOf } from '@fulgor/core/catalogue'
import type { Finding, SoundCheck } from './finding'
import { db, heardOf } from './heard'
import { inputLevel } from './inputLevel'

/** dBFS peak above which a model with the headroom of a pedal is driven (common practice, no source). */
const HEADROOM = -6

/** A loud signal into something that has the headroom of a pedal. */
export const hotInput: SoundCheck = {
  id: 'hot-input',
  why: 'Tape and bucket-brigade echoes saturate: as little as a pedal does in front of a soft amp, much when they stand behind a loud one. Driven on purpose they thicken the repeats. Otherwise a lower level before them, or moving them, keeps the repeats clear.',
  find(heard) {
    const { preset } = heard
    return heardOf(heard).flatMap(({ snapshot, reading }) =>
      stagesOf(preset.chain).flatMap((stage): Finding[] => {
        if (!modelOf(stage.model).limitedHeadroom || !resolveStage(preset, stage, snapshot.id).on) return []
        const peak = inputLevel(preset, reading, stage.id)
        if (peak === null || peak <= HEADROOM) return []
        return [
          {
            rule: hotInput.id,
            severity: 'note',
            where: [stage.id],
            snapshots: [snapshot.id],
            figure: `The riff reaches ${partName(preset, stage.id)} at ${db(peak)} dBFS in ${snapshot.name}.`,
            amount: { value: peak - HEADROOM, unit: 'dB', against: `from ${HEADROOM} dBFS` },
            reason: 'Its repeats are driven.',
            mends: [],
          },
        ]
      }),
    )
  },
}
