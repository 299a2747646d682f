import { averageSpectrum, centroid, thirdOctavesOf } from '@fulgor/core/measure'
import { STRENGTHS, STROKE_DB, type Strength } from '@fulgor/core/riffs'
import type { GuitarProfile, PickupPosition } from './description'
import { noiseIn } from './noise'
import { pitchFrom, type HeardPitch } from './pitch'
import { wetWords } from './wet'

/** Why a recording says nothing of a guitar: one sentence for the player. */
export class UnfitRecording extends Error {
  override readonly name = 'UnfitRecording'
}

/** What was found where, s from the start. */
export interface Segment {
  readonly kind: 'rest' | Strength
  readonly from: number
  readonly to: number
}

interface Level {
  readonly peakDbfs: number
  readonly rmsDbfs: number
}

/** All that a recording of one position tells. */
export interface GuitarMeasure {
  readonly durationS: number
  readonly segments: readonly Segment[]
  readonly humDbfs: number
  readonly mains: 50 | 60
  readonly hissDbfs: number
  readonly soft: Level
  readonly normal: Level
  readonly hard: Level
  readonly centroidHz: number
  readonly bands: readonly (number | null)[]
  readonly pitch: HeardPitch | null
  /** What a player should know before trusting it; sentences. */
  readonly warnings: readonly string[]
}

export const LEAST_RATE = 44_100
/** s of rest that hum is told from at least, and of a whole recording. */
export const LEAST_REST_S = 0.8
const LEAST_S = 3
const HOP_S = 0.01
const SILENT_DB = -120
/** dB of a strum over the rest, at least. */
const CLEAR_DB = 20
/** dB by which a stroke rises over what was before it. */
const RISE_DB = 8
const APART_S = 0.12
/** s of a strum in which its peak and its RMS are found. */
const PEAK_S = 0.25
const RMS_S = 0.4
/** Crest of a strum below which it was no dry guitar, dB (common practice, no source). */
const LEAST_CREST_DB = 8
/** dB between soft and hard below which they are one. */
const LEAST_SPREAD_DB = 5

const toDb = (linear: number): number => 20 * Math.log10(Math.max(linear, 1e-7))
const median = (values: readonly number[]): number => {
  const sorted = values.slice().sort((a, b) => a - b)
  const middle = sorted.length >> 1
  return sorted.length % 2 === 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2
}

/**
 * The one signal of a recording.
 * @param channel which side, where the player says so
 * @throws UnfitRecording for two different signals, or a stereo effect
 */
export function dryChannel(channels: readonly Float32Array[], channel?: 0 | 1): { samples: Float32Array; note: string | null } {
  if (channels.length === 1) return { samples: channels[0], note: null }
  if (channels.length > 2) throw new UnfitRecording(`has ${channels.length} channels; a guitar is one, or one of two.`)
  if (channel !== undefined) return { samples: channels[channel], note: null }
  const [left, right] = channels
  let [ll, rr, lr] = [0, 0, 0]
  for (let n = 0; n < left.length; n++) {
    ll += left[n] * left[n]
    rr += right[n] * right[n]
    lr += left[n] * right[n]
  }
  const apart = 10 * Math.log10((ll + 1e-20) / (rr + 1e-20))
  if (apart > 40) return { samples: left, note: 'The right side is empty; the left one was measured.' }
  if (apart < -40) return { samples: right, note: 'The left side is empty; the right one was measured.' }
  const alike = lr / Math.sqrt(ll * rr + 1e-30)
  if (alike > 0.995) return { samples: left, note: null }
  if (alike > 0.6)
    throw new UnfitRecording(
      `has two sides that are alike but not the same (correlation ${alike.toFixed(2)}): a stereo effect or an amp is on it. Record the guitar alone, dry.`,
    )
  throw new UnfitRecording('holds two different signals, one a side. Say which one is the guitar: left or right.')
}

/** Level of every {@link HOP_S}, dBFS. */
function levelsOf(x: Float32Array, sampleRate: number): Float64Array {
  const hop = Math.round(HOP_S * sampleRate)
  return Float64Array.from({ length: Math.floor(x.length / hop) }, (_, k) => {
    let sum = 0
    for (let n = k * hop; n < (k + 1) * hop; n++) sum += x[n] * x[n]
    return 10 * Math.log10(sum / hop + 1e-14)
  })
}

/** The longest stretch that stays near the softest level, as hops; null where it is too short. */
function restIn(levels: Float64Array): { from: number; to: number } | null {
  const sorted = levels.slice().sort()
  const floor = sorted[Math.floor(0.05 * sorted.length)]
  let best = { from: 0, to: 0 }
  let from = 0
  for (let k = 0; k <= levels.length; k++) {
    if (k < levels.length && levels[k] < Math.max(floor + 8, SILENT_DB)) continue
    if (k - from > best.to - best.from) best = { from, to: k }
    from = k + 1
  }
  // what the hand still does at either end
  const edge = Math.round(0.1 / HOP_S)
  const inside = { from: best.from === 0 ? 0 : best.from + edge, to: best.to === levels.length ? best.to : best.to - edge }
  return (inside.to - inside.from) * HOP_S >= LEAST_REST_S ? inside : null
}

interface Stroke extends Level {
  readonly from: number
  readonly to: number
}

function strokesIn(x: Float32Array, levels: Float64Array, restDb: number, sampleRate: number): Stroke[] {
  const hop = Math.round(HOP_S * sampleRate)
  const loudest = levels.reduce((m, v) => Math.max(m, v), -200)
  const least = Math.max(restDb + CLEAR_DB, loudest - 45)
  const starts: number[] = []
  for (let k = 1; k < levels.length; k++) {
    if (levels[k] < least || (k - (starts.at(-1) ?? -100)) * HOP_S < APART_S) continue
    let before = 0
    for (let j = Math.max(0, k - 6); j < k; j++) before = Math.min(before, levels[j])
    if (levels[k] - before >= RISE_DB) starts.push(k)
  }
  return starts.map((start, i) => {
    const next = starts.at(i + 1) ?? levels.length
    let end = start + 1
    while (end < next && levels[end] > restDb + 6) end++
    const [from, to] = [Math.max(0, (start - 1) * hop), end * hop]
    let peak = 0
    for (let n = from; n < Math.min(to, from + PEAK_S * sampleRate); n++) peak = Math.max(peak, Math.abs(x[n]))
    let sum = 0
    const until = Math.min(to, from + Math.round(RMS_S * sampleRate))
    for (let n = from; n < until; n++) sum += x[n] * x[n]
    return { from, to, peakDbfs: toDb(peak), rmsDbfs: 10 * Math.log10(sum / Math.max(1, until - from) + 1e-14) }
  })
}

/** Strokes sorted into soft, normal and hard by their peaks: three means (Lloyd, IEEE Trans. Information Theory 1982), in order. */
function sorted(strokes: readonly Stroke[]): Record<Strength, Stroke[]> | null {
  const peaks = strokes.map((s) => s.peakDbfs)
  const [low, high] = [Math.min(...peaks), Math.max(...peaks)]
  if (strokes.length < 3 || high - low < LEAST_SPREAD_DB) return null
  let means = [low, (low + high) / 2, high]
  let groups: Stroke[][] = []
  for (let turn = 0; turn < 50; turn++) {
    groups = means.map(() => [])
    for (const stroke of strokes) {
      const distances = means.map((m) => Math.abs(stroke.peakDbfs - m))
      groups[distances.indexOf(Math.min(...distances))].push(stroke)
    }
    const next = groups.map((g, k) => (g.length === 0 ? means[k] : g.reduce((s, v) => s + v.peakDbfs, 0) / g.length))
    if (next.every((m, k) => Math.abs(m - means[k]) < 1e-9)) break
    means = next
  }
  return { soft: groups[0], normal: groups[1], hard: groups[2] }
}

const levelOf = (strokes: readonly Stroke[]): Level => ({
  peakDbfs: median(strokes.map((s) => s.peakDbfs)),
  rmsDbfs: median(strokes.map((s) => s.rmsDbfs)),
})

const moved = ({ peakDbfs, rmsDbfs }: Level, db: number): Level => ({ peakDbfs: peakDbfs + db, rmsDbfs: rmsDbfs + db })

/** Samples on end that a top must be level for to be clipped, and how level, of the loudest: a rounded top of 60 Hz is not. */
const FLAT_RUN = 4
const FLAT = 3e-5
/** Of all samples in such tops; more than that is a square wave. */
const SQUARE = 0.02

/** Tops that are flat: where they begin, and how many samples they hold in all. */
function clippedTops(x: Float32Array): { places: number[]; samples: number } {
  const most = x.reduce((m, v) => Math.max(m, Math.abs(v)), 0)
  const places: number[] = []
  let samples = 0
  if (most < 0.1) return { places, samples }
  let run = 0
  for (let n = 0; n < x.length; n++) {
    const high = Math.abs(x[n]) >= 0.98 * most
    run = high ? (run > 0 && Math.abs(x[n] - x[n - 1]) <= FLAT * most ? run + 1 : 1) : 0
    if (run === FLAT_RUN) places.push(n)
    if (run >= FLAT_RUN) samples += run === FLAT_RUN ? FLAT_RUN : 1
  }
  return { places, samples }
}

function checkClipping(x: Float32Array, sampleRate: number): string | null {
  const { places, samples } = clippedTops(x)
  if (places.length === 0) return null
  const first = `${(places[0] / sampleRate).toFixed(1)} s`
  if (samples > SQUARE * x.length)
    throw new UnfitRecording(`is clipped to a square wave (first at ${first}): turn the interface’s input gain down and record it again.`)
  return `It clips in ${places.length} ${places.length === 1 ? 'place' : 'places'}, first at ${first}: hard strums are louder than told. Turn the input gain down.`
}

/**
 * Rest, soft, normal and hard strums of one pickup position, found in a dry recording.
 * @param guitar whose strings the notes belong to
 * @throws UnfitRecording with the reason
 */
export function measureGuitar(
  x: Float32Array,
  sampleRate: number,
  guitar: Pick<GuitarProfile, 'a4' | 'strings'>,
  note: string | null = null,
): GuitarMeasure {
  checkWhole(x, sampleRate)
  const levels = levelsOf(x, sampleRate)
  const loudest = levels.reduce((m, v) => Math.max(m, v), -200)
  if (loudest < -70)
    throw new UnfitRecording('is silent: nothing in it is louder than −70 dBFS. Is the right input chosen, and the volume up?')
  const warnings = [note, checkClipping(x, sampleRate)].filter((w) => w !== null)
  const rest = restIn(levels)
  const hop = Math.round(HOP_S * sampleRate)
  const resting = rest && x.subarray(rest.from * hop, rest.to * hop)
  const restDb = rest ? meanDb(levels, rest.from, rest.to) : loudest
  if (!rest || !resting || loudest - restDb < CLEAR_DB + 5)
    throw new UnfitRecording(
      `has no quiet stretch of ${LEAST_REST_S} s, ${CLEAR_DB + 5} dB under the strums: let the guitar rest, strings damped, for two seconds.`,
    )
  const strokes = strokesIn(x, levels, restDb, sampleRate)
  if (strokes.length === 0) throw new UnfitRecording('has no strum in it that stands out of its noise.')
  return measured(x, sampleRate, { from: rest.from * hop, to: rest.to * hop }, sorted(strokes), strokes, guitar, warnings)
}

function checkWhole(x: Float32Array, sampleRate: number): void {
  if (sampleRate < LEAST_RATE)
    throw new UnfitRecording(
      `is at ${sampleRate.toLocaleString('en')} Hz: nothing above ${Math.round(sampleRate / 2_000)} kHz is in it. Record at 44,100 Hz or more.`,
    )
  if (x.length < LEAST_S * sampleRate)
    throw new UnfitRecording(
      `lasts ${(x.length / sampleRate).toFixed(1)} s; rest, soft, normal and hard strums need ${LEAST_S} s at least.`,
    )
}

const meanDb = (levels: Float64Array, from: number, to: number): number =>
  10 * Math.log10(levels.subarray(from, to).reduce((sum, db) => sum + Math.pow(10, db / 10), 0) / Math.max(1, to - from))

/**
 * The same of four recordings that were made one after another: the guitar at rest, soft, normal and hard strums.
 * @throws UnfitRecording with the reason, naming the step
 */
export function measureSteps(
  steps: Readonly<Record<'rest' | Strength, Float32Array>>,
  sampleRate: number,
  guitar: Pick<GuitarProfile, 'a4' | 'strings'>,
): GuitarMeasure {
  if (steps.rest.length < LEAST_REST_S * sampleRate)
    throw new UnfitRecording(`The rest lasts ${(steps.rest.length / sampleRate).toFixed(1)} s; hum needs ${LEAST_REST_S} s at least.`)
  const gap = Math.round(0.05 * sampleRate)
  const whole = new Float32Array(STRENGTHS.reduce((sum, s) => sum + steps[s].length + gap, steps.rest.length))
  whole.set(steps.rest)
  const restDb = meanDb(levelsOf(steps.rest, sampleRate), 0, Math.floor(steps.rest.length / Math.round(HOP_S * sampleRate)))
  let at = steps.rest.length
  const groups = {} as Record<Strength, Stroke[]>
  for (const strength of STRENGTHS) {
    const part = steps[strength]
    // the step before has ended: strings that still sounded are no stroke
    at += gap
    whole.set(part, at)
    const start = at
    groups[strength] = strokesIn(part, levelsOf(part, sampleRate), restDb, sampleRate).map((s) => ({
      ...s,
      from: s.from + start,
      to: s.to + start,
    }))
    if (groups[strength].length === 0)
      throw new UnfitRecording(`No ${strength} strum was heard that stands ${CLEAR_DB} dB out of the noise at rest.`)
    at += part.length
  }
  const warnings = [checkClipping(whole, sampleRate)].filter((w) => w !== null)
  const all = STRENGTHS.flatMap((s) => groups[s])
  return measured(whole, sampleRate, { from: 0, to: steps.rest.length }, groups, all, guitar, warnings)
}

function measured(
  x: Float32Array,
  sampleRate: number,
  rest: { from: number; to: number },
  groups: Record<Strength, Stroke[]> | null,
  strokes: readonly Stroke[],
  guitar: Pick<GuitarProfile, 'a4' | 'strings'>,
  warnings: string[],
): GuitarMeasure {
  const noise = noiseIn(x.subarray(rest.from, rest.to), sampleRate)
  if (noise.hissDbfs <= SILENT_DB && noise.humDbfs <= SILENT_DB)
    warnings.push('The rest is digital silence: a gate or an editor cut it, and hum and hiss are not known.')
  const normalOnes = groups?.normal.length ? groups.normal : strokes
  const alone = levelOf(strokes)
  const ofGroup = (strength: Strength): Level =>
    groups ? levelOf(groups[strength].length > 0 ? groups[strength] : strokes) : moved(alone, STROKE_DB[strength] - STROKE_DB.normal)
  const levels = { soft: ofGroup('soft'), normal: ofGroup('normal'), hard: ofGroup('hard') }
  if (!groups)
    warnings.push(
      'All strums are about as loud: soft and hard ones were reckoned from them. Strum softer and harder to have them measured.',
    )
  const crest = median(strokes.map((s) => s.peakDbfs - s.rmsDbfs))
  if (crest < LEAST_CREST_DB)
    warnings.push(
      `Its strums stand only ${crest.toFixed(1)} dB over their mean level; a dry guitar has ${LEAST_CREST_DB + 2} to 20: it sounds compressed or distorted. Record it before any effect or amp.`,
    )
  const hops = levelsOf(x, sampleRate)
  const [resting, rested] = [rest.from, rest.to].map((n) => Math.floor(n / Math.round(HOP_S * sampleRate)))
  warnings.push(...wetWords(x, sampleRate, strokes, hops, HOP_S, meanDb(hops, resting, rested)))
  const spectrum = joined(x, normalOnes, sampleRate)
  const segments: Segment[] = [
    { kind: 'rest', from: rest.from / sampleRate, to: rest.to / sampleRate },
    ...STRENGTHS.flatMap((kind) =>
      (groups ? groups[kind] : kind === 'normal' ? strokes : []).map((s) => ({ kind, from: s.from / sampleRate, to: s.to / sampleRate })),
    ),
  ]
  return {
    durationS: x.length / sampleRate,
    segments: segments.sort((a, b) => a.from - b.from),
    ...noise,
    ...levels,
    centroidHz: centroid(averageSpectrum([spectrum], sampleRate)) ?? 0,
    bands: thirdOctavesOf([spectrum], sampleRate).map((b) => b.db),
    pitch: pitchFrom(x, strokes, sampleRate, guitar),
    warnings,
  }
}

/** A second of each stroke, one after another. */
function joined(x: Float32Array, strokes: readonly Stroke[], sampleRate: number): Float32Array {
  const pieces = strokes.map((s) => x.subarray(s.from, Math.min(s.to, s.from + sampleRate)))
  const out = new Float32Array(pieces.reduce((sum, p) => sum + p.length, 0))
  let at = 0
  for (const piece of pieces) {
    out.set(piece, at)
    at += piece.length
  }
  return out
}

/** What of a measure a position keeps. @param day YYYY-MM-DD */
export const measuredPosition = (
  position: PickupPosition,
  measure: GuitarMeasure,
  from: 'played' | 'file',
  day: string,
): PickupPosition => {
  const { pitch: _, ...before } = position
  const tenth = (v: number) => Math.round(Math.max(-140, v) * 10) / 10
  const level = ({ peakDbfs, rmsDbfs }: Level) => ({ peakDbfs: Math.min(0, tenth(peakDbfs)), rmsDbfs: Math.min(0, tenth(rmsDbfs)) })
  return {
    ...before,
    soft: level(measure.soft),
    normal: level(measure.normal),
    hard: level(measure.hard),
    centroidHz: Math.round(Math.min(12_000, Math.max(60, measure.centroidHz))),
    bands: measure.bands.map((db) => (db === null ? null : tenth(Math.max(-200, db)))),
    mains: measure.mains,
    humDbfs: Math.min(0, tenth(measure.humDbfs)),
    hissDbfs: Math.min(0, tenth(measure.hissDbfs)),
    ...(measure.pitch ? { pitch: measure.pitch } : {}),
    from,
    measuredOn: day,
  }
}
