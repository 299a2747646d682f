import { benchOf } from './bench'
import { blendResponse } from './blend'
import type { FileSource } from './channelTaps'
import type { CabDesign } from './loudspeaker'
import { arrivalSeconds, micResponse, type MicPlace } from './radiation'

/** A loudspeaker in its box with one microphone, by the model of the mic bench. */
export interface CabinetResponse {
  readonly id: string
  readonly name: string
  readonly cab: CabDesign
  readonly place: MicPlace
}

const CLOSE = { bearing: 0, angle: 0, room: 0 } as const

/** Responses that ship with the app; where their microphones stand is common practice, no source. */
export const cabinetResponses: readonly CabinetResponse[] = [
  {
    id: 'open-1x12-coil',
    name: '1×12 open back, moving coil',
    cab: { driver: 'bright', size: '12', drivers: '1', back: 'open' },
    place: { ...CLOSE, type: 'coil', offset: 16, distance: 25, reflections: 12 },
  },
  {
    id: 'closed-4x12-coil',
    name: '4×12 closed back, moving coil',
    cab: { driver: 'tight', size: '12', drivers: '4', back: 'closed' },
    place: { ...CLOSE, type: 'coil', offset: 20, distance: 20, reflections: 8 },
  },
  {
    id: 'open-2x12-ribbon',
    name: '2×12 open back, ribbon',
    cab: { driver: 'wide', size: '12', drivers: '2', back: 'open' },
    place: { ...CLOSE, type: 'ribbon', offset: 25, distance: 420, reflections: 12 },
  },
]

/**
 * Taps of any response that a cabinet stage names: a shipped one, or a bench's blend.
 * @throws RangeError for an unknown id
 */
export function responseTaps(id: string, sampleRate: number, files: FileSource): { left: Float64Array; right: Float64Array | null } {
  const bench = benchOf(id)
  return bench ? blendResponse(bench, sampleRate, files) : { left: synthesiseResponse(id, sampleRate), right: null }
}

/** Most responses that a library keeps. */
const KEPT = 24

/** Gives responses at one sample rate and keeps those last asked for. @param files where benches find the player's own files */
export function responseLibrary(
  sampleRate: number,
  files: FileSource = () => null,
): (id: string) => { left: Float64Array; right: Float64Array | null } {
  const kept = new Map<string, ReturnType<typeof responseTaps>>()
  return (id) => {
    const taps = kept.get(id) ?? responseTaps(id, sampleRate, files)
    kept.delete(id)
    kept.set(id, taps)
    if (kept.size > KEPT) kept.delete([...kept.keys()][0])
    return taps
  }
}

/** Length of a shipped response: 2,048 taps at 48 kHz. */
const SECONDS = 2048 / 48_000

/**
 * Taps of a shipped response at a sample rate; unity gain in the mean of 200 Hz–2 kHz.
 * @throws RangeError for an unknown id
 */
export function synthesiseResponse(id: string, sampleRate: number): Float64Array {
  const found = cabinetResponses.find((r) => r.id === id)
  if (!found) throw new RangeError(`There is no cabinet response “${id}”.`)
  const frames = Math.round(SECONDS * sampleRate)
  // the way through the air says nothing here, where there is one microphone
  const taps = micResponse(found.cab, found.place, sampleRate, 2 * frames)
  const start = Math.max(0, Math.floor(arrivalSeconds(found.cab, found.place) * sampleRate) - LEAD)
  const out = taps.slice(start, start + frames)
  const fade = Math.round(frames / 4)
  for (let n = 0; n < fade; n++) out[frames - 1 - n] *= 0.5 - 0.5 * Math.cos((Math.PI * n) / fade)
  return out
}

/** Frames kept before the first sound. */
const LEAD = 2
