import { modelOf } from '@fulgor/core/catalogue'
import { clippingStages } from '@fulgor/core/preset'
import type { Finding, SoundCheck } from './finding'
import { db, heardOf, listed } from './heard'

/** LU that must be left of the hand's dynamics for two gain stages to be worth a word (common practice, no source). */
const LEFT = 2.5

/** Several gain stages in a row after which soft and hard picking sound alike. */
export const littleDynamics: SoundCheck = {
  id: 'little-dynamics',
  why: 'Every stage that clips flattens the difference between soft and hard picking, and the next one starts from what is left. For a wall of sound that is wanted. For a part that breathes, less gain in the first of them or more level with less gain gives the hand its say back.',
  find(heard) {
    const { preset } = heard
    return heardOf(heard).flatMap(({ snapshot, reading }): Finding[] => {
      const clipping = clippingStages(preset, snapshot.id)
      const { dynamicsLu, handLu, output } = reading
      if (clipping.length < 2 || dynamicsLu === null || handLu === null || dynamicsLu > LEFT) return []
      return [
        {
          rule: littleDynamics.id,
          severity: 'note',
          where: clipping.map((s) => s.id),
          snapshots: [snapshot.id],
          figure: `${snapshot.name} leaves ${db(dynamicsLu)} of the ${db(handLu)} LU between soft and hard picking.`,
          amount: { value: LEFT - dynamicsLu, unit: 'LU', against: `of ${db(handLu)} LU` },
          reason: `${listed(clipping.map((s) => modelOf(s.model).name))} clip one after the other${output.crestDb === null ? '' : `; peaks stand ${db(output.crestDb)} dB above the RMS`}.`,
          mends: [],
        },
      ]
    })
  },
}
