import { averageSpectrum, centroid, THIRD_OCTAVES, thirdOctaves, type Spectrum } from '@fulgor/core/measure'
import {
  addNoise,
  PICKUPS,
  playRiff,
  RIFF_PEAK_DBFS,
  strokes,
  type CoilPlace,
  type GuitarNoise,
  type Performance,
  type Pickup,
  type Strength,
} from '@fulgor/core/riffs'
import { Convolver, dbToGain, gainToDb } from '@fulgor/core/signal'
import { minimumPhase } from '@fulgor/core/cabinet'
import type { GuitarProfile, PickupPlace, PickupPosition, PickupType } from './description'

/** Distances from the bridge, m (common practice, no source). */
const AT: Readonly<Record<string, number>> = { bridge: 0.037, middle: 0.1, neck: 0.16 }
const HUMBUCKERS: Readonly<Record<string, readonly CoilPlace[]>> = {
  bridge: PICKUPS[0].coils,
  neck: PICKUPS[1].coils,
  middle: [
    { at: 0.09, share: 0.42 },
    { at: 0.109, share: 0.58 },
  ],
}

/** Kinds and places that the string model has been set to by hand. */
const KNOWN: Readonly<Record<string, (typeof PICKUPS)[number]['id']>> = {
  'humbucker bridge': 'bridge',
  'humbucker neck': 'neck',
  'two middle-neck': 'middle-neck',
  'split bridge': 'split',
  'single neck': 'single',
}

function coilsOf(kind: PickupType, place: PickupPlace): readonly CoilPlace[] {
  if (kind === 'piezo') return [{ at: 0.006, share: 1 }]
  const places = place.split('-')
  const coils = places.flatMap((p) => (kind === 'humbucker' || kind === 'active' ? HUMBUCKERS[p] : [{ at: AT[p], share: 1 }]))
  return coils.map(({ at, share }) => ({ at, share: share / places.length }))
}

/** How a position sounds: all that a shipped riff needs to be heard on it. Plain data. */
export interface Voice {
  readonly pickup: Pickup
  readonly noise: GuitarNoise
  /** Peaks of its strums, dBFS. */
  readonly peaks: Readonly<Record<Strength, number>>
  /** The string model's level is the right one by itself. */
  readonly known: boolean
  readonly centroidHz: number | null
  readonly bands: readonly (number | null)[] | null
}

/** A position of a guitar as a voice, both knobs at 10. */
export function voiceOf(guitar: Pick<GuitarProfile, 'volume' | 'tone' | 'cable' | 'inputKohm'>, position: PickupPosition): Voice {
  const { kind, place, mains, humDbfs, hissDbfs } = position
  const known = PICKUPS.find((p) => p.id === KNOWN[`${kind} ${place}`])
  const load = 1e3 / (1 / guitar.volume.kohm + (guitar.tone ? 1 / guitar.tone.kohm : 0) + 1 / guitar.inputKohm)
  return {
    pickup: {
      id: known?.id ?? `${kind} ${place}`,
      name: position.name,
      coils: known?.coils ?? coilsOf(kind, place),
      aperture: known?.aperture ?? (kind === 'piezo' ? 0.002 : 0.009),
      resistance: position.resistance * 1e3,
      inductance: position.inductance,
      load,
      capacitance: (position.capacitance + guitar.cable.metres * guitar.cable.pfPerMetre) * 1e-12,
      hum: 0,
      levelDb: known?.levelDb ?? 0,
    },
    noise: { humDbfs, mains, hissDbfs },
    peaks: { soft: position.soft.peakDbfs, normal: position.normal.peakDbfs, hard: position.hard.peakDbfs },
    known: known !== undefined && position.from === 'start',
    centroidHz: position.centroidHz,
    bands: position.bands ?? null,
  }
}

const peakDb = (x: Float32Array): number => gainToDb(x.reduce((most, v) => Math.max(most, Math.abs(v)), 1e-9))

/** Largest correction that a measured spectrum asks of the string model, dB: beyond that the two were not the same chords. */
const MOST_DB = 12
/** Bands in which a guitar is told by its spectrum, Hz. */
const BAND_HZ = [80, 8_000] as const
const TILT_DB = 9
const TAPS = 2_048

const inBand = (hz: number): boolean => hz >= BAND_HZ[0] && hz <= BAND_HZ[1]

/** dB in each third octave by which the string model's strum is to be turned to be the measured one; null where nothing was measured. */
function correctionOf(voice: Voice, played: Spectrum): readonly number[] | null {
  if (voice.bands) {
    const mine = thirdOctaves(played).map((b) => b.db)
    const whole = (bands: readonly (number | null)[]) =>
      10 *
      Math.log10(bands.reduce<number>((sum, db, k) => sum + (db !== null && inBand(THIRD_OCTAVES[k]) ? Math.pow(10, db / 10) : 0), 1e-14))
    const level = whole(voice.bands) - whole(mine)
    const raw = THIRD_OCTAVES.map((hz, k) => {
      const [wanted, has] = [voice.bands?.[k] ?? null, mine[k]]
      return inBand(hz) && wanted !== null && has !== null ? Math.max(-MOST_DB, Math.min(MOST_DB, wanted - has - level)) : null
    })
    return smoothed(raw)
  }
  if (voice.centroidHz === null) return null
  const tilted = (db: number): Spectrum => ({
    ...played,
    power: played.power.map((p, b) => p * Math.pow(10, tiltAt(db, (b + 0.5) * played.binHz) / 10)),
  })
  let [low, high] = [-TILT_DB, TILT_DB]
  for (let i = 0; i < 30; i++) {
    const middle = (low + high) / 2
    if ((centroid(tilted(middle)) ?? 0) < voice.centroidHz) low = middle
    else high = middle
  }
  return THIRD_OCTAVES.map((hz) => tiltAt((low + high) / 2, hz))
}

/** dB at a frequency of a tilt by so many dB an octave around 700 Hz, level beyond the bands. */
const tiltAt = (db: number, hz: number): number => db * Math.log2(Math.min(BAND_HZ[1], Math.max(BAND_HZ[0], hz)) / 700)

/** Over three bands, held beyond those that are known. */
function smoothed(raw: readonly (number | null)[]): number[] {
  const known = raw.map((db, k) => [db, k] as const).filter((pair): pair is readonly [number, number] => pair[0] !== null)
  if (known.length === 0) return raw.map(() => 0)
  const nearest = (k: number) => known.reduce((best, pair) => (Math.abs(pair[1] - k) < Math.abs(best[1] - k) ? pair : best))[0]
  const filled = raw.map((db, k) => db ?? nearest(k))
  return filled.map((db, k) => 0.25 * (filled[Math.max(0, k - 1)] + filled[Math.min(filled.length - 1, k + 1)]) + 0.5 * db)
}

function shapeTaps(bands: readonly number[], sampleRate: number): Float64Array {
  const size = 2 * TAPS
  const magnitude = Float64Array.from({ length: size / 2 + 1 }, (_, b) => {
    const at = Math.log2(Math.max(20, (b * sampleRate) / size) / THIRD_OCTAVES[0]) * 3
    const k = Math.min(bands.length - 1.001, Math.max(0, at))
    const [low, share] = [Math.floor(k), k - Math.floor(k)]
    return dbToGain(bands[low] + share * (bands[low + 1] - bands[low]))
  })
  return minimumPhase(magnitude, size).slice(0, TAPS)
}

/** What is laid over the string model's riffs to sound as a position was measured. */
interface Setting {
  readonly taps: Float64Array | null
  readonly gainDb: Readonly<Record<Strength, number>>
}

const settings = new Map<string, Setting>()
const MOST_SETTINGS = 64

/** Found once for a voice: some tenths of a second where its strums are measured. */
function settingOf(voice: Voice, sampleRate: number): Setting {
  const key = `${sampleRate} ${JSON.stringify(voice)}`
  let found = settings.get(key)
  if (!found) {
    found = findSetting(voice, sampleRate)
    settings.set(key, found)
    if (settings.size > MOST_SETTINGS) settings.delete([...settings.keys()][0])
  }
  return found
}

function findSetting(voice: Voice, sampleRate: number): Setting {
  const same = (gain: number) => ({ soft: gain, normal: gain, hard: gain })
  if (voice.known && voice.centroidHz === null && !voice.bands) return { taps: null, gainDb: same(voice.peaks.hard - RIFF_PEAK_DBFS) }
  const normal = strokes(voice.pickup, 'normal', sampleRate)
  const correction = correctionOf(voice, averageSpectrum([normal], sampleRate))
  const taps = correction && shapeTaps(correction, sampleRate)
  const peak = (x: Float32Array) => peakDb(taps ? shaped(x, taps) : x)
  const gain = (strength: Strength) =>
    voice.peaks[strength] - peak(strength === 'normal' ? normal : strokes(voice.pickup, strength, sampleRate))
  const hard = gain('hard')
  return { taps, gainDb: { soft: gain('soft'), normal: gain('normal'), hard } }
}

function shaped(x: Float32Array, taps: Float64Array): Float32Array {
  const out = x.slice()
  new Convolver(taps).process(out, out.length)
  return out
}

/** A shipped riff as it is heard on a voice: the string model, the measured spectrum and level laid over it, hum and hiss under it. */
export function playOn(id: string, voice: Voice, performance: Omit<Performance, 'pickup' | 'noise'>, sampleRate: number): Float32Array {
  const { taps, gainDb } = settingOf(voice, sampleRate)
  const gain = dbToGain(gainDb[performance.strength])
  const dry = playRiff(id, sampleRate, { ...performance, pickup: voice.pickup, noise: null }).map((x) => x * gain)
  const out = taps ? looped(dry, taps) : dry
  addNoise(out, voice.noise, sampleRate)
  return out
}

/** The loop's end is heard first, so that it has no seam. */
function looped(dry: Float32Array, taps: Float64Array): Float32Array {
  const lead = Math.min(dry.length, TAPS)
  const whole = new Float32Array(dry.length + lead)
  whole.set(dry.subarray(dry.length - lead))
  whole.set(dry, lead)
  return shaped(whole, taps).slice(lead)
}

/** Strums of a position as they are heard: without noise. */
export function strokesOn(voice: Voice, strength: Strength, sampleRate: number): Float32Array {
  const { taps, gainDb } = settingOf(voice, sampleRate)
  const gain = dbToGain(gainDb[strength])
  const dry = strokes(voice.pickup, strength, sampleRate).map((x) => x * gain)
  return taps ? shaped(dry, taps) : dry
}

const carried = new Map<string, Carried>()

/** What is laid over a recording of one voice to sound as another. */
interface Carried {
  readonly taps: Float64Array
  readonly gain: number
}

/** Passes in which the third octaves are brought together: smoothing leaves some of the way at each. */
const PASSES = 3

function findCarried(from: Voice, to: Voice, sampleRate: number): Carried {
  const bandsOf = (x: Float32Array) => thirdOctaves(averageSpectrum([x], sampleRate)).map((b) => b.db)
  const mine = strokesOn(from, 'normal', sampleRate)
  const theirs = bandsOf(strokesOn(to, 'normal', sampleRate))
  let bands: readonly number[] = THIRD_OCTAVES.map(() => 0)
  let taps = shapeTaps(bands, sampleRate)
  for (let pass = 0; pass < PASSES; pass++) {
    const has = bandsOf(shaped(mine, taps))
    const apart = THIRD_OCTAVES.map((hz, k) => {
      const [now, wanted] = [has[k], theirs[k]]
      return inBand(hz) && now !== null && wanted !== null ? wanted - now : null
    })
    const known = apart.filter((db) => db !== null)
    const level = known.reduce((sum, db) => sum + db, 0) / Math.max(1, known.length)
    const rest = smoothed(apart.map((db) => (db === null ? null : db - level)))
    bands = bands.map((db, k) => Math.max(-MOST_DB, Math.min(MOST_DB, db + rest[k])))
    taps = shapeTaps(bands, sampleRate)
  }
  const [wantedHard, hard] = [strokesOn(to, 'hard', sampleRate), shaped(strokesOn(from, 'hard', sampleRate), taps)]
  return { taps, gain: dbToGain(peakDb(wantedHard) - peakDb(hard)) }
}

/**
 * A recording of one position as it would have been on another: level and third octaves are turned by what strums of the two differ.
 * Approximated: every note is turned alike, and the recording's own hum and hiss stay in it.
 */
export function asIfOn(samples: Float32Array, from: Voice, to: Voice, sampleRate: number): Float32Array {
  const key = `${sampleRate} ${JSON.stringify([from, to])}`
  let found = carried.get(key)
  if (!found) {
    found = findCarried(from, to, sampleRate)
    carried.set(key, found)
    if (carried.size > MOST_SETTINGS) carried.delete([...carried.keys()][0])
  }
  const { taps, gain } = found
  return looped(samples, taps).map((x) => x * gain)
}
