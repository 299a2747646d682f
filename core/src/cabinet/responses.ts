import { benchOf } from './bench'
import { blendResponse } from './blend'
import type { FileSource } from './channelTaps'
import { minimumPhase } from './minimumPhase'

/** A synthesised loudspeaker, box and microphone. */
export interface CabinetResponse {
  readonly id: string
  readonly name: string
  readonly voicing: Voicing
}

interface Peak {
  hz: number
  db: number
  q: number
}

interface Voicing {
  /** Box resonance: second-order high-pass. */
  resonanceHz: number
  resonanceQ: number
  /** Where the cone stops radiating: fourth-order low-pass. */
  topHz: number
  topQ: number
  peaks: readonly Peak[]
  /** Late copies of the sound by floor and neighbouring drivers: ms after the first, gain. */
  reflections: readonly (readonly [ms: number, gain: number])[]
}

/**
 * Responses that ship with the app. Box resonance and cone break-up follow the second-order box and piston models of Beranek,
 * Acoustics (1954); the peaks' places are common practice for 12-inch guitar drivers, no source.
 */
export const cabinetResponses: readonly CabinetResponse[] = [
  {
    id: 'open-1x12-coil',
    name: '1×12 open back, moving coil',
    voicing: {
      resonanceHz: 96,
      resonanceQ: 0.9,
      topHz: 5_400,
      topQ: 1.1,
      peaks: [
        { hz: 190, db: 2.5, q: 1.2 },
        { hz: 430, db: -3, q: 1.1 },
        { hz: 1_350, db: 1.5, q: 2 },
        { hz: 2_500, db: 6, q: 1.6 },
        { hz: 3_700, db: 4, q: 4 },
        { hz: 4_500, db: -3, q: 5 },
      ],
      reflections: [
        [1.15, 0.11],
        [3.4, -0.07],
      ],
    },
  },
  {
    id: 'closed-4x12-coil',
    name: '4×12 closed back, moving coil',
    voicing: {
      resonanceHz: 84,
      resonanceQ: 1.35,
      topHz: 4_700,
      topQ: 1.2,
      peaks: [
        { hz: 120, db: 3, q: 1.4 },
        { hz: 380, db: -4, q: 0.9 },
        { hz: 900, db: -1.5, q: 2 },
        { hz: 2_200, db: 4.5, q: 1.8 },
        { hz: 3_300, db: 5, q: 3 },
        { hz: 5_000, db: -5, q: 4 },
      ],
      reflections: [
        [0.62, 0.16],
        [0.95, 0.09],
        [4.1, -0.06],
      ],
    },
  },
  {
    id: 'open-2x12-ribbon',
    name: '2×12 open back, ribbon',
    voicing: {
      resonanceHz: 82,
      resonanceQ: 0.8,
      topHz: 4_300,
      topQ: 0.75,
      peaks: [
        { hz: 150, db: 4, q: 0.9 },
        { hz: 520, db: -2, q: 1.2 },
        { hz: 1_700, db: 2, q: 1.5 },
        { hz: 2_800, db: 2.5, q: 2.5 },
        { hz: 6_500, db: -4, q: 1.5 },
      ],
      reflections: [
        [0.8, 0.12],
        [2.7, 0.05],
      ],
    },
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
  const { voicing } = found
  const size = 16_384
  const magnitude = new Float64Array(size / 2 + 1)
  let power = 0
  let bins = 0
  for (let k = 0; k <= size / 2; k++) {
    const hz = (k * sampleRate) / size
    magnitude[k] = gainAt(voicing, hz)
    if (hz >= 200 && hz <= 2000) {
      power += magnitude[k] ** 2
      bins++
    }
  }
  const direct = minimumPhase(magnitude, size)
  const frames = Math.round(SECONDS * sampleRate)
  const taps = new Float64Array(frames)
  const scale = 1 / Math.sqrt(power / bins)
  for (const [ms, gain] of [[0, 1], ...voicing.reflections] as const) {
    const late = Math.round((ms / 1000) * sampleRate)
    for (let n = late; n < frames; n++) taps[n] += gain * scale * direct[n - late]
  }
  const fade = Math.round(frames / 4)
  for (let n = 0; n < fade; n++) taps[frames - 1 - n] *= 0.5 - 0.5 * Math.cos((Math.PI * n) / fade)
  return taps
}

function gainAt(v: Voicing, hz: number): number {
  const low = hz / v.resonanceHz
  const high = hz / v.topHz
  let gain = (low * low) / Math.hypot(1 - low * low, low / v.resonanceQ)
  gain *= 1 / Math.hypot(1 - high * high, high / v.topQ) / Math.hypot(1, high * high * 0.6)
  for (const { hz: centre, db, q } of v.peaks) {
    const x = hz / centre - centre / Math.max(hz, 1e-3)
    gain *= Math.pow(10, db / 20 / (1 + q * q * x * x))
  }
  return gain
}
