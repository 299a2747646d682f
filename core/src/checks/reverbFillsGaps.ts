import { modelOf } from '@fulgor/core/catalogue'
import { resolveStage, stagesOf } from '@fulgor/core/preset'
import type { Finding, SoundCheck } from './finding'
import { db, heardOf } from './heard'

/** dB that gaps must have without reverb to be gaps, and that must be left of them (common practice, no source). */
const GAPS = 20
const LEFT = 10

/** A reverb that leaves no room between the notes. */
export const reverbFillsGaps: SoundCheck = {
  id: 'reverb-fills-gaps',
  why: 'A riff with gaps lives by them. A reverb that is still loud in them makes one long sound of it, and the next stroke has nothing to stand out of. Less mix or a shorter decay opens them; a wash is what some parts are made of, and their role says so.',
  find(heard) {
    const { preset } = heard
    return heardOf(heard).flatMap(({ snapshot, reading }): Finding[] => {
      const { dryGapDb, gapDb } = reading
      if (dryGapDb === null || gapDb === null || dryGapDb < GAPS || gapDb > LEFT) return []
      if (snapshot.role === 'ambience' || snapshot.role === 'effect') return []
      const reverb = stagesOf(preset.chain).findLast((s) => modelOf(s.model).family === 'reverb' && resolveStage(preset, s, snapshot.id).on)
      if (!reverb) return []
      const half = Math.floor(Number(resolveStage(preset, reverb, snapshot.id).params.mix) / 2)
      return [
        {
          rule: reverbFillsGaps.id,
          severity: 'note',
          where: [reverb.id],
          snapshots: [snapshot.id],
          figure: `The gaps of the riff lie ${db(gapDb)} dB under its notes in ${snapshot.name}; without reverb ${db(dryGapDb)} dB.`,
          amount: { value: dryGapDb - gapDb, unit: 'dB' },
          reason: 'The next stroke has nothing to stand out of.',
          mends:
            half < 1
              ? []
              : [
                  {
                    label: `Mix at ${half} %`,
                    edits: [{ type: 'setParam', stage: reverb.id, snapshot: snapshot.id, param: 'mix', value: half }],
                  },
                ],
        },
      ]
    })
  },
}
