import type { Transfer } from './transfer'

/** A type of microphone. */
export interface MicrophoneType {
  readonly id: string
  readonly name: string
  /** Shares of pressure and of pressure gradient: 0.5 and 0.5 is a cardioid, 0 and 1 a figure of eight. */
  readonly pressure: number
  readonly gradient: number
  /** Radius of the diaphragm, m: larger hears less top from the side. */
  readonly radius: number
  /** Response on axis to a plane wave. */
  readonly voice: (transfer: Transfer) => void
}

/** Types of microphone; their responses on axis are common practice, no source. */
export const microphones: readonly MicrophoneType[] = [
  {
    id: 'coil',
    name: 'Moving coil, presence',
    pressure: 0.5,
    gradient: 0.5,
    radius: 0.017,
    voice: (t) => void t.highPass1(170).bell(330, -2, 0.8).bell(5_400, 5, 1.2).lowPass2(14_000, 0.8),
  },
  {
    id: 'coil-full',
    name: 'Moving coil, full lows',
    pressure: 0.5,
    gradient: 0.5,
    radius: 0.02,
    voice: (t) =>
      void t.highPass1(70).bell(150, 1.5, 0.8).bell(800, -1.5, 0.7).bell(3_600, 2.5, 1).bell(7_500, 3, 1.4).lowPass2(13_000, 0.75),
  },
  {
    id: 'coil-even',
    name: 'Moving coil, even',
    pressure: 0.5,
    gradient: 0.5,
    radius: 0.015,
    voice: (t) => void t.highPass1(110).bell(250, -1, 0.8).bell(4_500, 1.5, 0.8).bell(9_000, 1.5, 1).lowPass2(16_000, 0.7),
  },
  {
    id: 'ribbon',
    name: 'Ribbon',
    pressure: 0,
    gradient: 1,
    radius: 0.009,
    voice: (t) => void t.highPass1(140).bell(2_800, -1, 1).lowPass1(9_500).lowPass2(15_000, 0.7),
  },
  {
    id: 'large-condenser',
    name: 'Large condenser',
    pressure: 0.5,
    gradient: 0.5,
    radius: 0.016,
    voice: (t) => void t.highPass1(90).bell(4_000, -1, 1).bell(9_500, 4, 1).lowPass2(17_000, 0.8),
  },
  {
    id: 'small-condenser',
    name: 'Small condenser',
    pressure: 0.5,
    gradient: 0.5,
    radius: 0.007,
    voice: (t) => void t.highPass1(110).bell(8_000, 1.5, 0.8).lowPass2(19_000, 0.8),
  },
]

/** @throws RangeError for an unknown type */
export function microphoneOf(id: string): MicrophoneType {
  const found = microphones.find((m) => m.id === id)
  if (!found) throw new RangeError(`There is no microphone type “${id}”.`)
  return found
}

/**
 * Output of a microphone with shares of pressure and gradient for a spherical wave from a point, against a plane wave on axis:
 * pressure + gradient·cosθ·(1 + 1/(j·k·r)). The second part is the proximity effect.
 * Source: Eargle, The Microphone Book, 2nd ed., 2004, ch. 3 (gradient of a spherical wave).
 * @param distance m
 * @returns real and imaginary part
 */
export function proximity(
  { pressure, gradient }: Pick<MicrophoneType, 'pressure' | 'gradient'>,
  hz: number,
  distance: number,
  cosTheta: number,
): { re: number; im: number } {
  const kr = ((2 * Math.PI * hz) / 343) * distance
  return { re: pressure + gradient * cosTheta, im: (-gradient * cosTheta) / kr }
}
