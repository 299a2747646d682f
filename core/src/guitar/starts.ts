import { noiseOf, pickupOf, STROKE_DB } from '@fulgor/core/riffs'
import type { GuitarProfile, PickupPlace, PickupPosition, PickupType } from './description'
import { NAMED_TUNINGS } from './tuning'

/** dB by which an open chord's RMS lies under its peak (the string model's). */
const CREST_DB = 16.3

interface KindStart {
  readonly label: string
  /** kΩ, H, pF. */
  readonly resistance: number
  readonly inductance: number
  readonly capacitance: number
  /** Peak of a hard strum, dBFS. */
  readonly hard: number
  readonly humDbfs: number
  readonly hissDbfs: number
}

const coilNoise = noiseOf(pickupOf('bridge'))
const HISS = Math.round(coilNoise.hissDbfs * 10) / 10
const HUMBUCKING = Math.round(coilNoise.humDbfs * 10) / 10
const SINGLE_HUM = Math.round(noiseOf(pickupOf('single')).humDbfs * 10) / 10

/** Where a kind of pickup may begin, to be measured or typed over. Values are common practice, no source. */
export const KIND_STARTS: Readonly<Record<PickupType, KindStart>> = {
  single: { label: 'Single coil', resistance: 6.2, inductance: 2.4, capacitance: 110, hard: -14, humDbfs: SINGLE_HUM, hissDbfs: HISS },
  split: { label: 'Split humbucker', resistance: 4.1, inductance: 2.2, capacitance: 110, hard: -14, humDbfs: SINGLE_HUM, hissDbfs: HISS },
  humbucker: { label: 'Humbucker', resistance: 8.2, inductance: 4.6, capacitance: 110, hard: -7, humDbfs: HUMBUCKING, hissDbfs: HISS },
  active: { label: 'Active humbucker', resistance: 10, inductance: 1.5, capacitance: 50, hard: -6, humDbfs: HUMBUCKING - 4, hissDbfs: -88 },
  piezo: { label: 'Piezo with its preamp', resistance: 1, inductance: 0, capacitance: 0, hard: -9, humDbfs: -96, hissDbfs: -84 },
  two: { label: 'Two coils together', resistance: 3.1, inductance: 1.2, capacitance: 220, hard: -15, humDbfs: HUMBUCKING, hissDbfs: HISS },
}

export const PLACE_LABELS: Readonly<Record<PickupPlace, string>> = {
  bridge: 'at the bridge',
  middle: 'in the middle',
  neck: 'at the neck',
  'bridge-middle': 'bridge and middle',
  'middle-neck': 'middle and neck',
  'bridge-neck': 'bridge and neck',
}

/** A position with the figures of its kind. @param hard peak of a hard strum, dBFS */
export function startPosition(
  name: string,
  kind: PickupType,
  place: PickupPlace,
  hard = KIND_STARTS[kind].hard,
  own: Partial<PickupPosition> = {},
): PickupPosition {
  const { label: _l, hard: _h, ...start } = KIND_STARTS[kind]
  return { name, kind, place, ...start, ...strokesAt(hard), centroidHz: null, mains: 50, from: 'start', ...own }
}

/** Soft, normal and hard strums as the string model plays them, by the peak of a hard one in dBFS. */
export function strokesAt(hard: number): Pick<PickupPosition, 'soft' | 'normal' | 'hard'> {
  const stroke = (strength: keyof typeof STROKE_DB) => {
    const peakDbfs = hard + STROKE_DB[strength]
    return { peakDbfs, rmsDbfs: peakDbfs - CREST_DB }
  }
  return { soft: stroke('soft'), normal: stroke('normal'), hard: stroke('hard') }
}

const E_STANDARD = NAMED_TUNINGS[0].notes.map((note) => ({ note, cents: 0 }))

/** Pots and cable that are usual with humbuckers or single coils (common practice, no source). */
const wiring = (kohm: number): Pick<GuitarProfile, 'volume' | 'bleed' | 'tone' | 'cable' | 'inputKohm'> => ({
  volume: { kohm, taper: 'audio' },
  bleed: null,
  tone: { kohm, nf: 22, taper: 'audio' },
  cable: { metres: 4.5, pfPerMetre: 100 },
  inputKohm: 1_000,
})

const guitar = (name: string, kohm: number, positions: readonly PickupPosition[]): GuitarProfile => ({
  name,
  a4: 440,
  strings: E_STANDARD,
  positions,
  ...wiring(kohm),
})

/** Shipped guitars: hard strums near the ends of what pickups give (common practice, no source). */
export const GUITARS: readonly GuitarProfile[] = [
  guitar('Hot humbucker', 500, [
    startPosition('Bridge', 'humbucker', 'bridge'),
    startPosition('Both', 'humbucker', 'bridge-neck', -8, { resistance: 4, inductance: 2.2, capacitance: 220 }),
    startPosition('Neck', 'humbucker', 'neck', -7, { resistance: 7.6, inductance: 4.2 }),
    startPosition('Bridge, split', 'split', 'bridge'),
  ]),
  guitar('Mild humbucker', 500, [
    startPosition('Bridge', 'humbucker', 'bridge', -11),
    startPosition('Both', 'humbucker', 'bridge-neck', -12, { resistance: 4, inductance: 2.2, capacitance: 220 }),
    startPosition('Neck', 'humbucker', 'neck', -11, { resistance: 7.6, inductance: 4.2 }),
  ]),
  guitar('Fat single coil', 500, [
    startPosition('Bridge, split', 'split', 'bridge'),
    startPosition('Middle + neck', 'two', 'middle-neck', -15),
    startPosition('Neck', 'single', 'neck'),
  ]),
  guitar('Mild single coil', 250, [
    startPosition('Middle + neck', 'two', 'middle-neck', -19),
    startPosition('Bridge', 'single', 'bridge', -18),
    startPosition('Bridge + middle', 'two', 'bridge-middle', -19),
    startPosition('Middle', 'single', 'middle', -18),
    startPosition('Neck', 'single', 'neck', -18),
  ]),
]
