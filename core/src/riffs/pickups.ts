import { bilinear, type AnalogCoefficients } from '@fulgor/core/signal'
import { playingKernel } from './playing'

/** One coil under the strings. */
export interface CoilPlace {
  /** m from the bridge. */
  readonly at: number
  /** Share of the sum. */
  readonly share: number
}

/** Coils and what stands behind them, as one source to the amp. */
export interface Pickup {
  readonly id: string
  readonly name: string
  readonly coils: readonly CoilPlace[]
  /** Length of string that a coil hears, m. */
  readonly aperture: number
  /** Series resistance and inductance of what sounds, ohm and henry. */
  readonly resistance: number
  readonly inductance: number
  /** Volume and tone pots and the input side by side, ohm. */
  readonly load: number
  /** Coil and cable, farad; {@link CAPACITANCE} unless given. */
  readonly capacitance?: number
  /** Hum of the coils that does not cancel, full scale. */
  readonly hum: number
  /** dB that bring a hard strum of open chords to the common peak. */
  readonly levelDb: number
}

/** Coil and 3 m of cable, farad. Common practice, no source. */
export const CAPACITANCE = 560e-12

/** Kinds of pickup. Places, inductances and resistances are common practice, no source; a humbucker's coils are never quite alike. */
export const PICKUPS = [
  {
    id: 'bridge',
    name: 'Bridge humbucker',
    coils: [
      { at: 0.037, share: 0.42 },
      { at: 0.056, share: 0.58 },
    ],
    aperture: 0.008,
    resistance: 8_200,
    inductance: 4.6,
    load: 200e3,
    hum: 3e-5,
    levelDb: 0,
  },
  {
    id: 'neck',
    name: 'Neck humbucker',
    coils: [
      { at: 0.142, share: 0.42 },
      { at: 0.161, share: 0.58 },
    ],
    aperture: 0.008,
    resistance: 7_600,
    inductance: 4.2,
    load: 200e3,
    hum: 3e-5,
    levelDb: -1.9,
  },
  {
    id: 'middle-neck',
    name: 'Middle and neck, single coils',
    coils: [
      { at: 0.1, share: 0.5 },
      { at: 0.16, share: 0.5 },
    ],
    aperture: 0.009,
    resistance: 3_100,
    inductance: 1.2,
    load: 111e3,
    hum: 3e-5,
    levelDb: -1.2,
  },
  {
    id: 'split',
    name: 'Bridge humbucker, split',
    coils: [{ at: 0.037, share: 1 }],
    aperture: 0.008,
    resistance: 4_100,
    inductance: 2.2,
    load: 200e3,
    hum: 2e-4,
    levelDb: 0.1,
  },
  {
    id: 'single',
    name: 'Neck single coil',
    coils: [{ at: 0.16, share: 1 }],
    aperture: 0.009,
    resistance: 6_200,
    inductance: 2.4,
    load: 111e3,
    hum: 2e-4,
    levelDb: -2.2,
  },
] as const satisfies readonly Pickup[]

export type PickupKind = (typeof PICKUPS)[number]['id']

/** @throws RangeError for an unknown kind */
export function pickupOf(id: string): Pickup {
  const found = PICKUPS.find((p) => p.id === id)
  if (!found) throw new RangeError(`There is no pickup “${id}”; there are ${PICKUPS.map((p) => p.id).join(', ')}.`)
  return found
}

/**
 * How strongly a pickup hears partial `n` of a string that sounds over `length` m: sin(nπx/L) at every coil, less what the aperture
 * averages away. Source: Jungmann, Theoretical and practical studies on the behaviour of electric guitar pickups, Helsinki 1994.
 */
export function positionGain({ coils, aperture }: Pick<Pickup, 'coils' | 'aperture'>, n: number, length: number): number {
  const span = (Math.PI * n * aperture) / (2 * length)
  const blur = Math.sin(span) / span
  return blur * coils.reduce((sum, { at, share }) => sum + share * Math.sin((n * Math.PI * Math.min(at, length)) / length), 0)
}

/**
 * Transfer of coil, pots and cable: a voltage source behind R and L into a resistor beside a capacitor.
 * Source: Jungmann 1994 (equivalent circuit); checked against ngspice.
 */
export function coilTransfer({
  resistance,
  inductance,
  load,
  capacitance = CAPACITANCE,
}: Pick<Pickup, 'resistance' | 'inductance' | 'load' | 'capacitance'>): AnalogCoefficients {
  return { b: [1, 0, 0, 0], a: [1 + resistance / load, inductance / load + resistance * capacitance, inductance * capacitance, 0] }
}

/** Frames of a loop's end that the coil hears first. */
const LEAD = 4_800

/** Runs a string signal through coil, pots and cable and then to a level, in place. The loop's end is heard first, so that it settles. */
export function throughCoil(signal: Float32Array, pickup: Pickup, sampleRate: number, level = 1): void {
  const c = new Float64Array(8)
  bilinear(coilTransfer(pickup), sampleRate, c)
  playingKernel().throughCoil(signal, [c[0], c[1], c[2], c[5], c[6]], level, LEAD)
}
