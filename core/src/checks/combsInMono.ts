import type { Finding, SoundCheck } from './finding'
import { db, heardOf, listed, widening } from './heard'

/** dB that a mono sum may take of one third octave: unrelated sides lose 3 (common practice, no source). */
const GONE = 9

/** A doubling whose offset makes a comb of the mono sum, also where the loudness as a whole is kept. */
export const combsInMono: SoundCheck = {
  id: 'combs-in-mono',
  why: 'One side some ms later is wide on two loudspeakers. Summed to one, every frequency whose half wave fits the delay vanishes: the first at 500 Hz for 1 ms, at 25 Hz and every 50 Hz above for 20 ms. Two real takes do not do it; a smaller share of the late side, or the same side for both, does less.',
  find(heard) {
    const { preset } = heard
    return heardOf(heard).flatMap(({ snapshot, reading }): Finding[] => {
      const gone = reading.monoBands.filter((b) => b.db < -GONE)
      if (gone.length === 0) return []
      const worst = gone.reduce((a, b) => (b.db < a.db ? b : a))
      return [
        {
          rule: combsInMono.id,
          severity: 'warning',
          where: widening(preset, snapshot.id),
          snapshots: [snapshot.id],
          hz: worst.hz,
          figure: `In mono ${listed(gone.slice(0, 4).map((b) => `${b.hz} Hz`))} ${gone.length === 1 ? 'vanishes' : 'vanish'} from ${snapshot.name}, by ${db(-worst.db)} dB at ${worst.hz} Hz.`,
          amount: { value: -worst.db, unit: 'dB', against: `up to ${GONE}` },
          reason: 'The sides cancel there in a mono house.',
          mends: [],
        },
      ]
    })
  },
}
