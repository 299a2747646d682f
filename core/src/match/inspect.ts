import type { View } from '@fulgor/core/recording'
import { averageSpectrum, centroid, echoOf, type FoundEcho, loudness, ringOf, samplePeak, type Told } from '@fulgor/core/measure'
import { bandsOfSound, tiltOf, type Bands } from './bands'
import { cutOf } from './coding'
import { distanceOf, WHOLE, type Trusted } from './distance'
import { othersIn, type FoundOthers } from './players'
import { modulationOf, type FoundModulation } from './modulation'
import { sidesOf, type FoundSides } from './sides'
import { tempoOfSound } from './tempo'
import { octaveIn } from './octave'
import { pitchesOf } from './pitches'
import { voiceIn } from './voice'
import { tuningOfSound, type FoundTuning } from './tuning'

/** Shortest stretch that says anything, s. */
export const LEAST_S = 1

/** A recording that says nothing; the sentence goes on after its name. */
export class UnfitReference extends Error {}

/** What a recording is. */
export interface ReferenceReport {
  readonly seconds: number
  readonly lufs: number | null
  readonly peakDbfs: number
  /** dB of the peak over the RMS. */
  readonly crestDb: number
  readonly rangeLu: number | null
  readonly centroidHz: number | null
  /** dB an octave, 200 Hz to 6.3 kHz. */
  readonly tiltDb: number | null
  readonly bands: Bands
  readonly tempo: Told<number>
  readonly tuning: Told<FoundTuning>
  readonly sides: Told<FoundSides>
  readonly echo: Told<FoundEcho>
  readonly ring: Told<number>
  readonly modulation: Told<FoundModulation>
  readonly width: Width
  /** Hz. */
  readonly cut: Told<number>
  readonly others: Told<FoundOthers>
  /** Cents a second that the pitch of a voice by itself moves by. */
  readonly voice: Told<number>
  /** dB of even partials over odd ones in a single line. */
  readonly octave: Told<number>
  readonly trusted: Trusted
  /** Distance of its first half from its second, dB: what other notes of the same sound make; null where it is too short. */
  readonly ownDb: number | null
}

/** Share of the power that the sides differ in, %: 0 is mono, 50 two players who share nothing; null where there is nothing. */
export interface Width {
  readonly percent: number
  /** By third octave. */
  readonly bands: readonly (number | null)[]
}

function widthOf(sides: readonly Float32Array[], sampleRate: number): Width {
  const [same, apart] = (['mid', 'side'] as const).map((view) => bandsOfSound([viewOf(sides, view)], sampleRate).db)
  const power = (db: number | null) => (db === null ? 0 : Math.pow(10, db / 10))
  const share = (m: number, s: number) => (m + s > 0 ? (100 * s) / (m + s) : null)
  const sum = (bands: readonly (number | null)[]) => bands.reduce((whole: number, db) => whole + power(db), 0)
  return { percent: share(sum(same), sum(apart)) ?? 0, bands: same.map((db, k) => share(power(db), power(apart[k]))) }
}

/** One side of a recording, or what both share or differ in. */
export function viewOf(sides: readonly Float32Array[], view: View): Float32Array {
  const [left, right = left] = sides
  if (view === 'left') return left
  if (view === 'right') return right
  const sign = view === 'mid' ? 1 : -1
  return left.map((x, n) => 0.5 * (x + sign * right[n]))
}

/**
 * Everything that is told of a recording, or of the stretches of it that are given as one.
 * @param sides one channel or two, of equal length
 * @throws UnfitReference for silence, and for what is too short
 */
export function inspectReference(sides: readonly Float32Array[], sampleRate: number, view: View = 'mid'): ReferenceReport {
  const seconds = sides[0].length / sampleRate
  if (seconds < LEAST_S) throw new UnfitReference(`lasts ${seconds.toFixed(1)} s; ${LEAST_S} s at least are needed.`)
  const x = viewOf(sides, view)
  const peak = samplePeak([x])
  if (peak < 1e-4) throw new UnfitReference(view === 'side' ? 'has nothing that its sides differ in.' : 'is silent.')
  let power = 0
  for (const v of x) power += v * v
  const { integratedLufs, rangeLu } = loudness([x, x], sampleRate)
  const bands = bandsOfSound([x], sampleRate)
  const cut = cutOf([x], sampleRate)
  const others = othersIn(x, sampleRate)
  const pitches = pitchesOf(x, sampleRate)
  const trusted = {
    fromHz: others.value?.fromHz ?? WHOLE.fromHz,
    toHz: Math.min(WHOLE.toHz, cut.value === null ? Infinity : 0.97 * cut.value, 0.45 * sampleRate),
  }
  return {
    seconds,
    lufs: integratedLufs,
    peakDbfs: 20 * Math.log10(peak),
    crestDb: 20 * Math.log10(peak / Math.sqrt(power / x.length)),
    rangeLu,
    centroidHz: centroid(averageSpectrum([x], sampleRate)),
    tiltDb: tiltOf(bands.db),
    bands,
    tempo: tempoOfSound(x, sampleRate),
    tuning: tuningOfSound(x, sampleRate),
    sides: sidesOf(sides[0], sides.at(1) ?? sides[0], sampleRate),
    echo: echoOf(x, sampleRate),
    ring: ringOf(x, sampleRate),
    modulation: modulationOf(x, sampleRate),
    width: widthOf(sides, sampleRate),
    cut,
    others,
    voice: voiceIn(x, sampleRate, pitches),
    octave: octaveIn(x, sampleRate, pitches),
    trusted,
    ownDb: seconds < 4 ? null : halvesApart(x, sampleRate, trusted),
  }
}

function halvesApart(x: Float32Array, sampleRate: number, trusted: Trusted): number | null {
  const half = x.length >> 1
  const [first, second] = [x.subarray(0, half), x.subarray(half)].map((part) => bandsOfSound([part], sampleRate).db)
  return distanceOf(first, second, trusted)?.db ?? null
}
