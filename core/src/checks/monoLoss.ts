import type { Finding, SoundCheck } from './finding'
import { db, heardOf, widening } from './heard'

/** LU: equal but unrelated sides lose 3; more than that is cancelled (common practice, no source). */
const LOSS = 3.5

/** A wide sound of which a mono house leaves less. */
export const monoLoss: SoundCheck = {
  id: 'mono-loss',
  why: 'Most houses play one signal. Sides that are unlike lose 3 LU in the sum, which is only level; where more goes, parts of the sound cancel each other: short delays between the sides, effects of opposite phase, a lane with turned polarity. It is heard in the house and not on headphones.',
  find(heard) {
    const { preset } = heard
    return heardOf(heard).flatMap(({ snapshot, reading }): Finding[] => {
      const { monoLossLu } = reading
      if (monoLossLu === null || monoLossLu < LOSS) return []
      return [
        {
          rule: monoLoss.id,
          severity: 'warning',
          where: widening(preset, snapshot.id),
          snapshots: [snapshot.id],
          figure: Number.isFinite(monoLossLu)
            ? `${snapshot.name} loses ${db(monoLossLu)} LU in mono.`
            : `Nothing is left of ${snapshot.name} in mono.`,
          amount: { value: Math.min(60, monoLossLu), unit: 'LU', against: `up to ${LOSS}` },
          reason: 'In a mono house parts of it cancel.',
          mends: [],
        },
      ]
    })
  },
}
