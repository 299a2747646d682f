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

export const pickupChosen = ({ pickup: _pickup, ...riff }: RiffChoice, kind: PickupKind | 'guitar'): RiffChoice =>
  kind === 'guitar' ? riff : { ...riff, pickup: kind }
