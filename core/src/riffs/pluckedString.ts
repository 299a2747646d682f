import { positionGain, type Pickup } from './pickups'
import { playingKernel } from './playing'
import { inharmonicity, lengthAt, partialRatio, partialT60 } from './strings'

/** A pick stroke on one string. Times in s. */
export interface Pluck {
  readonly at: number
  /** How long the string rings before it is stopped. */
  readonly length: number
  readonly string: number
  readonly fret: number
  /** Hz. */
  readonly hz: number
  /** 0–1: level and brightness of the stroke. */
  readonly strength: number
  /** 0 open string, 1 firmly muted by the palm. */
  readonly mute: number
  /** Fingers lie on the string: a stroke without a note. */
  readonly dead?: boolean
  /** Pitch over time: s after the stroke, semitones from `hz`, joined by straight lines. */
  readonly bend?: readonly (readonly [seconds: number, semitones: number])[]
  /** Swing of pitch, from so many s after the stroke on. */
  readonly vibrato?: { readonly from: number; readonly cents: number; readonly hz: number }
  /** The loudspeaker keeps the string going, and its octave takes over. */
  readonly feedback?: boolean
}

export interface StringOptions {
  readonly sampleRate: number
  /** Place of the pick, m from the bridge. */
  readonly pickAt: number
  readonly pickup: Pickup
}

/** Highest partial that is played, Hz: coils and cable leave little above. */
export const TOP_HZ = 8_500
/** Up to here both polarisations are played, Hz; their beating is not heard in what dies soon. */
const BOTH_HZ = 1_100
/** Share of a partial below which it is left out. */
const LEAST = 6e-5
/** Where a stroke's partials begin to fall: the pick lets go in a finite time, a soft stroke slower and with a rounder edge, Hz. */
const releaseHz = (strength: number): number => 1_400 + 7_600 * strength
/** Width of the pick's contact, m: a firm stroke bares less of it. */
const contact = (strength: number): number => 0.007 - 0.004 * strength
/** s in which a stopped string falls by 60 dB. */
const STOPPED = 0.09
/** The same under the next stroke's pick. */
const TOUCHED = 0.006
/** A dead stroke's, s. */
const DEAD = 0.035
/** How much a pickup hears of the string's swing along the top. */
const SIDEWAYS = 0.3

/**
 * Amplitude of partial `n` of the string's velocity after an ideal pluck at `pickAt` m: the displacement's harmonics are
 * sin(nπβ)/n², those of the velocity sin(nπβ)/n; less what a contact of finite width averages away.
 * Source: Fletcher & Rossing, The Physics of Musical Instruments, 2nd ed. 1998, section 2.7; Karjalainen, Välimäki & Tolonen, CMJ 1998.
 */
export function pluckGain(n: number, pickAt: number, width: number, length: number): number {
  const span = (Math.PI * n * width) / (2 * length)
  return ((Math.sin((n * Math.PI * Math.min(pickAt, length)) / length) / n) * Math.sin(span)) / span
}

/**
 * Adds one string's plucks to `out` as the pickup's coils hear it: every partial a decaying sine of both polarisations, whose decays
 * differ and which are a fraction of a cent apart (two-stage decay and beating), stiff-string frequencies, decay by frequency, and the
 * stroke's own noise.
 * Sources: modal form of Karjalainen, Välimäki & Tolonen, CMJ 1998 (polarisations, damping); see also {@link pluckGain},
 * {@link positionGain}, strings.ts.
 */
export function pluckString(out: Float32Array, plucks: readonly Pluck[], options: StringOptions, random: () => number): void {
  const { sampleRate } = options
  plucks.forEach((pluck, index) => {
    const next = plucks[index + 1] as Pluck | undefined
    const start = Math.round(pluck.at * sampleRate)
    // the pick touches the string a moment before it lets go again
    const touched = next ? Math.round((next.at - 0.004) * sampleRate) : out.length
    const stop = Math.min(Math.round((pluck.at + pluck.length) * sampleRate), touched)
    const end = Math.min(out.length, next ? Math.round(next.at * sampleRate) : out.length)
    if (end <= start) return
    soundPartials(out, pluck, { start, stop: Math.max(start, stop), end, touched }, options, random)
    scratch(out, pluck, start, sampleRate, random)
  })
}

interface Span {
  readonly start: number
  /** From here on the string is stopped. */
  readonly stop: number
  readonly end: number
  /** From here on the next stroke's pick lies on it. */
  readonly touched: number
}

function soundPartials(out: Float32Array, pluck: Pluck, span: Span, options: StringOptions, random: () => number): void {
  const partials = partialsOf(pluck, options, random)
  const { sampleRate } = options
  if (pluck.bend ?? pluck.vibrato ?? pluck.feedback) {
    const speeds = pitchCurve(pluck, span, sampleRate)
    for (const partial of partials) addMoving(out, span, partial, speeds, sampleRate)
  } else for (let k = 0; k < partials.length; k += 4) addFour(out, span, partials.slice(k, k + 4), sampleRate)
}

interface Partial {
  /** Radians a frame. */
  readonly w: number
  readonly gain: number
  /** Frames. */
  readonly t60: number
  /** Frames in which it grows to its level. */
  readonly swell: number
}

function partialsOf(pluck: Pluck, { sampleRate, pickAt, pickup }: StringOptions, random: () => number): Partial[] {
  const { string, fret, hz, strength, mute } = pluck
  const length = lengthAt(fret)
  const b = inharmonicity(string, fret)
  const place = pickAt + 0.003 * (random() - 0.5)
  // across the top 35° to 55°: what the pickup hears whole, and what it hears in part
  const angle = 0.61 + 0.35 * random()
  const down = strength * Math.cos(angle)
  const along = strength * Math.sin(angle) * SIDEWAYS
  const apart = 1 + 0.0003 + 0.0002 * random()
  const corner = releaseHz(strength)
  const partials: Partial[] = []
  for (let n = 1; ; n++) {
    const partial = hz * partialRatio(n, b)
    if (partial > TOP_HZ) return partials
    const w = (2 * Math.PI * partial) / sampleRate
    if (pluck.feedback && n === 2) {
      partials.push({ w, gain: 0.35 * strength, t60: 60 * sampleRate, swell: 0.4 * sampleRate })
      continue
    }
    const struck = pluckGain(n, place, contact(strength), length) / (1 + (partial / corner) ** 2)
    const gain = struck * positionGain(pickup, n, length)
    if (Math.abs(gain) < LEAST) continue
    const t60 = pluck.dead ? DEAD : pluck.feedback && n === 1 ? 9 : partialT60(string, fret, mute, partial)
    partials.push({ w, gain: gain * down, t60: t60 * sampleRate, swell: 0 })
    // the slower half is heard where decays are long
    if (t60 > 0.15 && partial < BOTH_HZ) partials.push({ w: w * apart, gain: gain * along, t60: 1.8 * t60 * sampleRate, swell: 0 })
  }
}

/** Frames over which pitch moves in one step. */
const STEP = 32

/** Factor on the pitch for every {@link STEP} frames. */
function pitchCurve({ bend = [], vibrato }: Pluck, { start, end }: Span, sampleRate: number): Float64Array {
  return Float64Array.from({ length: Math.ceil((end - start) / STEP) }, (_, k) => {
    const t = (k * STEP) / sampleRate
    let semitones = bend.length > 0 ? bend[bend.length - 1][1] : 0
    for (let i = 0; i < bend.length; i++)
      if (t < bend[i][0]) {
        const [t0, s0] = i === 0 ? [0, 0] : bend[i - 1]
        semitones = s0 + ((bend[i][1] - s0) * (t - t0)) / (bend[i][0] - t0)
        break
      }
    const swing = vibrato && t > vibrato.from ? Math.min(1, (t - vibrato.from) / 0.25) * vibrato.cents : 0
    // a finger bends upwards only
    const cents = semitones * 100 + (swing * (1 - Math.cos(2 * Math.PI * (vibrato?.hz ?? 0) * (t - (vibrato?.from ?? 0))))) / 2
    return Math.pow(2, cents / 1200)
  })
}

/** A partial is left where it lies 70 dB under a string's loudest: below a guitar's own hiss. */
const FLOOR = 6e-5

/** A partial's life: its decay while it rings, once it is stopped, and under the next pick. */
const lives = ({ stop, touched, end }: Span, t60: number, sampleRate: number): readonly (readonly [to: number, t60: number])[] => {
  const stopped = Math.min(t60, STOPPED * sampleRate)
  return [
    [stop, t60],
    [Math.min(touched, end), stopped],
    [end, Math.min(stopped, TOUCHED * sampleRate)],
  ]
}

/** Up to four decaying sines by their recursion y[n] = 2r·cos(w)·y[n−1] − r²·y[n−2], side by side. */
function addFour(out: Float32Array, span: Span, partials: readonly Partial[], sampleRate: number): void {
  const playing = playingKernel()
  const { sines } = playing
  sines.fill(0)
  const [a1, a2, y1, y2] = [0, 4, 8, 12].map((at) => sines.subarray(at, at + 4))
  const levels = new Float64Array(4)
  partials.forEach(({ gain }, k) => (levels[k] = Math.abs(gain)))
  let at = span.start
  for (let life = 0; life < 3; life++) {
    let end = at
    const to = lives(span, 1, sampleRate)[life][0]
    for (const [k, partial] of partials.entries()) {
      const decay = lives(span, partial.t60, sampleRate)[life][1]
      const { w } = partial
      const radius = Math.pow(10, -3 / decay)
      // where it stands two frames and one frame before this piece
      const phase = w * (at - span.start)
      const signed = Math.sign(partial.gain) * levels[k]
      y1[k] = (signed / radius) * Math.sin(phase - w)
      y2[k] = (signed / radius / radius) * Math.sin(phase - 2 * w)
      a1[k] = 2 * radius * Math.cos(w)
      a2[k] = radius * radius
      end = Math.max(end, Math.min(to, at + Math.ceil((decay * Math.log10(Math.max(1, levels[k] / FLOOR))) / 3)))
      levels[k] *= Math.pow(10, (-3 * Math.max(0, to - at)) / decay)
    }
    playing.addSines(out, at, end)
    if (end < to) return
    at = Math.max(at, to)
  }
}

/** One partial whose pitch moves, or that grows. */
function addMoving(out: Float32Array, span: Span, { w, gain, t60, swell }: Partial, speeds: Float64Array, sampleRate: number): void {
  const { start } = span
  let re = gain
  let im = 0
  let at = start
  for (const [to, decay] of lives(span, t60, sampleRate)) {
    const heard = at + Math.ceil((decay * Math.log10(Math.max(1, Math.hypot(re, im) / FLOOR))) / 3)
    const end = Math.min(to, heard)
    const radius = Math.pow(10, -3 / decay)
    while (at < end) {
      const k = at - start
      const speed = speeds[Math.min(speeds.length - 1, Math.floor(k / STEP))]
      const c = radius * Math.cos(w * speed)
      const s = radius * Math.sin(w * speed)
      const level = swell > 0 ? 1 - Math.exp(-((k / swell) ** 2) / 8) : 1
      for (const until = Math.min(end, start + STEP * (Math.floor(k / STEP) + 1)); at < until; at++) {
        out[at] += level * im
        const r = re * c - im * s
        im = re * s + im * c
        re = r
      }
    }
    if (heard < to) return
  }
}

/** Noise of the stroke: the pick's edge on the string, and of a dead one the hand's; some milliseconds. */
function scratch(out: Float32Array, { strength, dead, mute }: Pluck, start: number, sampleRate: number, random: () => number): void {
  const seconds = dead ? 0.012 : 0.004
  const level = strength * (dead ? 0.05 : 0.012) * (1 - 0.5 * mute)
  const low = 1 - Math.exp((-2 * Math.PI * (1_500 + 2_500 * strength)) / sampleRate)
  const high = 1 - Math.exp((-2 * Math.PI * 700) / sampleRate)
  let slow = 0
  let fast = 0
  for (let k = 0, frames = Math.round(4 * seconds * sampleRate); k < frames; k++) {
    const t = k / sampleRate / seconds
    fast += low * (random() * 2 - 1 - fast)
    slow += high * (fast - slow)
    const at = start + k
    if (at < out.length) out[at] += level * (fast - slow) * t * Math.exp(1 - t)
  }
}
