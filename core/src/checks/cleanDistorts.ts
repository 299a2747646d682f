import { clippingStages, partName, stagesOf, type Edit, strokeDbfs } from '@fulgor/core/preset'
import type { Finding, SoundCheck } from './finding'
import { db, heardOf, normalThd } from './heard'

/** % of harmonics that a normal stroke may have in a sound that is meant clean: from 3 % on it is heard as grit (common practice, no source). */
const GRIT = 3
/** dB that the guitar is turned down by at most: below that the preset is no clean one. */
const DEEPEST = 40

/** A snapshot whose role is clean, and that distorts under a normal stroke. */
export const cleanDistorts: SoundCheck = {
  id: 'clean-distorts',
  why: 'How far a stroke drives the amp depends on the guitar: a hot pickup breaks up a preset that was clean on another one. Here a tone as loud as a normal stroke of this guitar is sent through and its harmonics are counted. Grit may be wanted: then the role is not clean.',
  find(heard, newId) {
    const { preset } = heard
    return heardOf(heard).flatMap(({ snapshot, reading }): Finding[] => {
      if (snapshot.role !== 'clean') return []
      const normal = strokeDbfs(preset, snapshot.id, 'normal')
      const share = normalThd(preset, snapshot.id, reading)
      const edge = reading.feel.edges.find((e) => e.thd === 1)?.inputDb ?? null
      if (share < GRIT) return []
      const first = clippingStages(preset, snapshot.id).at(0)?.id
      // in front of all lanes where it stands in one
      const index = preset.chain.findIndex((node) => stagesOf([node]).some((s) => s.id === first))
      const trim = newId()
      const down = edge === null ? 0 : Math.ceil(10 * (normal - edge)) / 10
      const edits: Edit[] = [
        { type: 'addStage', stage: trim, model: 'trim', lane: null, index },
        { type: 'setParam', stage: trim, snapshot: snapshot.id, param: 'level', value: -down },
      ]
      return [
        {
          rule: cleanDistorts.id,
          severity: 'warning',
          where: first ? [first] : [],
          snapshots: [snapshot.id],
          figure: `${snapshot.name} is meant clean and distorts by ${share.toFixed(0)} % on a normal stroke.`,
          amount: { value: share, unit: '%', against: `clean up to ${GRIT} %` },
          reason:
            edge === null
              ? 'It breaks up from the softest stroke on.'
              : `It breaks up ${db(normal - edge)} dB below a normal stroke${first ? `; ${partName(preset, first)} comes first` : ''}.`,
          // what comes in softer distorts less by just what the tone told
          mends: index >= 0 && down > 0 && down <= DEEPEST ? [{ label: `${db(down)} dB less into it`, edits }] : [],
        },
      ]
    })
  },
}
