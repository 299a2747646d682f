import type { RiffChoice } from '@fulgor/core/preset'
import { STRENGTHS, TUNINGS, type Strength, type Tuning } from '@fulgor/core/riffs'

/** How hard a shipped riff is picked, for a choice. */
export const PICKINGS: readonly (readonly [Strength, string])[] = STRENGTHS.map((s) => [s, s[0].toUpperCase() + s.slice(1)])
/** Tunings for a choice; the guitar's own comes first. */
export const TUNING_CHOICES: readonly (readonly [Tuning | 'guitar', string])[] = [
  ['guitar', 'As the guitar is tuned'],
  ...TUNINGS.map((t) => [t.id, t.name] as const),
]

/** The same in two words at most, for the player bar. */
export const shortTuning = (tuning: Tuning | 'guitar'): string =>
  ({
    guitar: 'tuning',
    standard: 'E',
    'half-down': 'E\u266d',
    'drop-d': 'drop D',
    'whole-down': 'D',
    'drop-c': 'drop C',
    'drop-b': 'drop B',
    'drop-a': 'drop A',
  })[tuning]

export const tuningChosen = ({ tuning: _tuning, ...riff }: RiffChoice, tuning: Tuning | 'guitar'): RiffChoice =>
  tuning === 'guitar' ? riff : { ...riff, tuning }
