import { modelOf } from '@fulgor/core/catalogue'
import { clippingStages, partName, partsOf, pathTo, resolveStage, stagesOf } from '@fulgor/core/preset'
import type { Finding, SoundCheck } from './finding'
import { db, heardOf, normalThd } from './heard'
import { readingBefore } from './inputLevel'

/** % of harmonics on a normal stroke from which distortion itself evens out the strokes (common practice, no source). */
const HIGH_GAIN = 20
/** dB that noise must be raised by against the riff to be told. */
const RAISED = 3

/** A compressor before high gain: the noise comes up, and the distortion compresses by itself. */
export const compressorBeforeGain: SoundCheck = {
  id: 'compressor-before-gain',
  why: 'Two schools. With it: more sustain, and every stroke drives the amp alike. Without it: distortion compresses already, and what the compressor adds is mostly noise between the notes. The figures say what it does here; the choice is yours.',
  find(heard) {
    const { preset } = heard
    return heardOf(heard).flatMap(({ snapshot, reading }) => {
      if (normalThd(preset, snapshot.id, reading) < HIGH_GAIN) return []
      return stagesOf(preset.chain).flatMap((stage): Finding[] => {
        if (modelOf(stage.model).family !== 'compressor' || !resolveStage(preset, stage, snapshot.id).on) return []
        const gain = clippingStages(preset, snapshot.id).some((s) =>
          partsOf(pathTo(preset.chain, s.id)).some((earlier) => earlier.id === stage.id),
        )
        const before = readingBefore(preset, reading, stage.id)
        const after = reading.stages[stage.id]
        if (!gain || before?.rmsDbfs == null || before.noiseDbfs === null || after.rmsDbfs === null || after.noiseDbfs === null) return []
        const raised = after.noiseDbfs - before.noiseDbfs - (after.rmsDbfs - before.rmsDbfs)
        if (raised < RAISED) return []
        return [
          {
            rule: compressorBeforeGain.id,
            severity: 'note',
            where: [stage.id],
            snapshots: [snapshot.id],
            figure: `${partName(preset, stage.id)} before the gain of ${snapshot.name} brings the noise ${db(raised)} dB closer.`,
            amount: { value: raised, unit: 'dB', against: 'noise against the riff' },
            reason: `It takes away ${db(after.gain?.meanDb ?? 0)} dB on average, and the distortion behind it evens out the strokes by itself.`,
            mends: [{ label: 'Off here', edits: [{ type: 'setOn', stage: stage.id, snapshot: snapshot.id, on: false }] }],
          },
        ]
      })
    })
  },
}
