import type { RiffChoice } from '@fulgor/core/preset'
import { PICKUPS, STRENGTHS, TUNINGS, type PickupKind, type Strength, type Tuning } from '@fulgor/core/riffs'

/** How hard a shipped riff is picked, for a choice. */
export const PICKINGS: readonly (readonly [Strength, string])[] = STRENGTHS.map((s) => [s, s[0].toUpperCase() + s.slice(1)])
/** Pickups for a choice; the guitar's own comes first. */
export const PICKUP_CHOICES: readonly (readonly [PickupKind | 'guitar', string])[] = [
  ['guitar', 'The guitar’s own pickup'],
  ...PICKUPS.map((p) => [p.id, p.name] as const),
]
export const TUNING_CHOICES: readonly (readonly [Tuning, string])[] = TUNINGS.map((t) => [t.id, t.name])

/** The same in two words at most, for the player bar. */
export const shortPickup = (kind: PickupKind | 'guitar'): string =>
  ({ guitar: 'own pickup', bridge: 'bridge', neck: 'neck', 'middle-neck': 'mid + neck', split: 'split', single: 'neck single' })[kind]
export const shortTuning = (tuning: Tuning): string =>
  ({
    standard: 'E',
    'half-down': 'E\u266d',
    'drop-d': 'drop D',
    'whole-down': 'D',
    'drop-c': 'drop C',
    'drop-b': 'drop B',
    'drop-a': 'drop A',
  })[tuning]

export const pickupChosen = ({ pickup: _pickup, ...riff }: RiffChoice, kind: PickupKind | 'guitar'): RiffChoice =>
  kind === 'guitar' ? riff : { ...riff, pickup: kind }
