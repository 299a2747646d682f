import { Transfer } from './transfer'

/** The speed of sound at 20 °C, m/s: 2.915 µs a millimetre. */
export const SPEED_OF_SOUND = 343

/** A loudspeaker's own sound, apart from box and microphone. */
export interface DriverVoicing {
  readonly id: string
  readonly name: string
  /** Resonance in free air, Hz, of the 12-inch version, and its Q. */
  readonly resonanceHz: number
  readonly resonanceQ: number
  /** Above it the cone no longer moves as one: at the voice coil's radius, Hz; falls towards the rim. */
  readonly breakUpHz: number
  /** Speed of the bending wave from the coil to the rim, m/s. */
  readonly waveSpeed: number
  /** Resonance of the dust cap, where the top of the sound ends. */
  readonly capHz: number
  readonly capQ: number
  readonly bells: readonly (readonly [hz: number, db: number, q: number])[]
}

/** Voicings of guitar drivers. Where their bells lie is common practice, no source. */
export const drivers: readonly DriverVoicing[] = [
  {
    id: 'bright',
    name: 'Light paper, bright',
    resonanceHz: 78,
    resonanceQ: 1.05,
    breakUpHz: 3_300,
    waveSpeed: 1_150,
    capHz: 5_300,
    capQ: 1.6,
    bells: [
      [430, -2.5, 1],
      [2_500, 5, 1.5],
      [3_700, 6, 3],
      [4_600, -2, 5],
    ],
  },
  {
    id: 'warm',
    name: 'Heavy paper, warm',
    resonanceHz: 70,
    resonanceQ: 0.95,
    breakUpHz: 2_300,
    waveSpeed: 950,
    capHz: 4_300,
    capQ: 1.05,
    bells: [
      [170, 2, 1],
      [1_500, 1.5, 1.2],
      [2_500, 4.5, 1.8],
    ],
  },
  {
    id: 'mid',
    name: 'Ribbed cone, mid-forward',
    resonanceHz: 82,
    resonanceQ: 1.1,
    breakUpHz: 2_800,
    waveSpeed: 1_050,
    capHz: 4_700,
    capQ: 1.3,
    bells: [
      [260, -1.5, 1],
      [850, 2.5, 1],
      [1_800, 4, 1.5],
      [3_100, 5.5, 2.5],
      [5_100, -3, 3],
    ],
  },
  {
    id: 'tight',
    name: 'Large magnet, tight',
    resonanceHz: 74,
    resonanceQ: 0.6,
    breakUpHz: 2_700,
    waveSpeed: 1_100,
    capHz: 5_000,
    capQ: 1.25,
    bells: [
      [120, -1.5, 1],
      [400, -3.5, 0.9],
      [2_200, 5, 1.5],
      [3_300, 8, 2.2],
    ],
  },
  {
    id: 'wide',
    name: 'Damped cone, wide and even',
    resonanceHz: 64,
    resonanceQ: 0.7,
    breakUpHz: 4_200,
    waveSpeed: 1_300,
    capHz: 6_600,
    capQ: 0.85,
    bells: [
      [520, -1, 1],
      [2_900, 4, 1.2],
    ],
  },
]

/** How many inches across, how many in a box, and whether the box is open behind. */
export interface CabDesign {
  readonly driver: string
  readonly size: '10' | '12'
  readonly drivers: '1' | '2' | '4'
  readonly back: 'open' | 'closed'
  /** Voicing of every second driver; 'same' or absent: all are of one kind. */
  readonly second?: string
}

/** Voicings of a box by the driver that a microphone stands at: its own, and those of the other drivers in their order. */
export function voicesOf(
  { driver, drivers: count, second = 'same' }: CabDesign,
  at: 'first' | 'second' = 'first',
): { near: string; others: readonly string[] } {
  if (second === 'same' || count === '1') return { near: driver, others: Array.from({ length: Number(count) - 1 }, () => driver) }
  const [near, across] = at === 'first' ? [driver, second] : [second, driver]
  // in a box of four the same kinds stand across the corner
  return { near, others: count === '2' ? [across] : [across, across, near] }
}

/** Measures of a driver and its box in metres. The microphones stand at the first driver. */
export interface CabGeometry {
  readonly coneRadius: number
  readonly capRadius: number
  /** From the grille cloth back to the rim, and from the rim down to the coil. */
  readonly grilleGap: number
  readonly coneDepth: number
  /** Places of the other drivers: right and up of the first. */
  readonly others: readonly (readonly [x: number, y: number])[]
  /** Height of the first driver over the floor. */
  readonly height: number
  readonly halfWidth: number
  readonly boxDepth: number
}

export function geometryOf({ size, drivers: count }: CabDesign): CabGeometry {
  const twelve = size === '12'
  const pitch = twelve ? 0.31 : 0.265
  return {
    coneRadius: twelve ? 0.13 : 0.105,
    capRadius: twelve ? 0.042 : 0.036,
    grilleGap: 0.015,
    coneDepth: twelve ? 0.052 : 0.044,
    others:
      count === '1'
        ? []
        : count === '2'
          ? [[pitch, 0]]
          : [
              [pitch, 0],
              [0, -pitch],
              [pitch, -pitch],
            ],
    height: count === '4' ? 0.22 + pitch : 0.24,
    halfWidth: count === '1' ? 0.24 : 0.35,
    boxDepth: 0.27,
  }
}

/** @throws RangeError for an unknown voicing */
export function driverOf(id: string): DriverVoicing {
  const found = drivers.find((d) => d.id === id)
  if (!found) throw new RangeError(`There is no driver “${id}”.`)
  return found
}

/**
 * What all points of the cone have in common: box resonance (closed: second-order high-pass, stiffer and higher with less air for a
 * driver; open: the driver's own), voicing, first bending modes.
 * Source: Beranek, Acoustics, 1954, ch. 8 (box resonance); Small, JAES 1972 (closed box); bells are common practice.
 */
export function driverTransfer(cab: CabDesign, bins: number, binHz: number): Transfer {
  const driver = driverOf(cab.driver)
  const transfer = new Transfer(bins, binHz)
  const small = cab.size === '10' ? 1.12 : 1
  const air = cab.back === 'open' ? 1 : cab.drivers === '1' ? 1.5 : cab.drivers === '2' ? 1.38 : 1.25
  transfer.highPass2(driver.resonanceHz * small * air, driver.resonanceQ * (cab.back === 'open' ? 1 : air))
  for (const [hz, db, q] of driver.bells) transfer.bell(hz * (hz > 600 ? small : 1), db, q)
  // standing wave between the front and the back of a closed box
  if (cab.back === 'closed') transfer.bell(SPEED_OF_SOUND / (2 * 0.27), -2, 3)
  // the cone stiffens into its first bending modes before it lets go
  return transfer.bell(2_900 * small, 4.5, 0.9)
}

/** A cap is glued over the coil and stiffer than the cone's resonance says. */
const CAP_STIFFNESS = 1.4

/** Rings that the cone is cut into, from the cap to the rim. */
export interface Ring {
  /** m from the axis. */
  readonly radius: number
  readonly width: number
  /** m before the grille (negative: behind it). */
  readonly z: number
  /** How the ring moves against the voice coil. */
  readonly motion: Transfer
  /** Above it the ring moves less than a ten-thousandth. */
  readonly topHz: number
}

/**
 * The cone as rings: the cap and the inner cone move with the coil up to high frequencies, the outer ones later (the bending wave
 * must reach them) and only up to a falling corner, which is why a microphone before the rim hears less top.
 * Source: the model of a radially moving cone in Beranek, Acoustics, 1954, ch. 7; its figures are common practice.
 */
export function coneRings(cab: CabDesign, bins: number, binHz: number, count = 16): Ring[] {
  const driver = driverOf(cab.driver)
  const { coneRadius, capRadius, coneDepth, grilleGap } = geometryOf(cab)
  const small = cab.size === '10' ? 1.12 : 1
  const width = coneRadius / count
  return Array.from({ length: count }, (_, i) => {
    const radius = (i + 0.5) * width
    const inCap = radius < capRadius
    const slope = (coneDepth * (coneRadius - Math.max(radius, capRadius))) / (coneRadius - capRadius)
    const dome = inCap ? 0.3 * capRadius * (1 - (radius / capRadius) ** 2) : 0
    const motion = new Transfer(bins, binHz).lowPass2(driver.capHz * CAP_STIFFNESS * small, driver.capQ)
    const corner = 1.25 * driver.breakUpHz * small * Math.pow(capRadius / radius, 0.8)
    if (!inCap) motion.fade(corner).delay((radius - capRadius) / driver.waveSpeed)
    return { radius, width, z: -grilleGap - slope + dome, motion, topHz: inCap ? Infinity : 5.2 * corner }
  })
}
