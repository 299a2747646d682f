import { micResponse, microphones, type CabDesign, type MicPlace } from '@fulgor/core/cabinet'

/** Where microphones are tried before a loudspeaker, mm. */
const OFFSETS = [0, 12, 25, 40, 55, 75, 95]
const DISTANCES = [10, 25, 60, 150]

/** Places of every microphone before a simulated loudspeaker. */
export const PLACES: readonly MicPlace[] = microphones.flatMap(({ id: type }) =>
  OFFSETS.flatMap((offset) => DISTANCES.map((distance) => ({ type, offset, bearing: 0, distance, angle: 0, reflections: 0, room: 0 }))),
)

/** “moving coil, presence 25/60 mm”: how far off the middle, how far away. */
export const placeWords = ({ type, offset, distance }: MicPlace): string =>
  `${(microphones.find((m) => m.id === type)?.name ?? type).toLowerCase()} ${offset}/${distance} mm`

/** Samples at 48 kHz that a response is tried with. */
const FRAMES = 2_048

export const placeResponse = (cab: CabDesign, place: MicPlace, sampleRate: number): Float64Array =>
  micResponse(cab, place, sampleRate, Math.round((FRAMES * sampleRate) / 48_000))
