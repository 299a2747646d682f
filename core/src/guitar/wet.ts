import { echoOfStrokes, median } from '@fulgor/core/measure'

/** A stroke in a recording, samples. */
interface Span {
  readonly from: number
  readonly to: number
}

/** Strokes that an echo is looked for in, and how long one must sound alone for it, s. */
const STROKES = 16
const ALONE_S = 0.3
/** Certainty and level from which an echo is told. */
const SURE = 0.6
const LEAST_ECHO_DB = -30

/** dB that strings lose at once where they are stopped, and in how many ms. */
const STOP_DB = 12
const STOP_MS = 120
/** What goes on behind a stop: at least so many dB over the rest, for so many ms, between so many s for 60 dB. */
const OVER_REST_DB = 10
const GOES_ON_MS = 250
const TAIL_S = [0.25, 8] as const
/** dB that a tail may swing about its straight line. */
const STRAIGHT_DB = 2

/**
 * What makes a recording a wet one: sentences. An echo comes as a copy of every stroke; a reverb is heard where the strings are stopped,
 * and nowhere else for sure, since strings ring too.
 * @param levels dB of every `hopS` seconds
 */
export function wetWords(
  x: Float32Array,
  sampleRate: number,
  strokes: readonly Span[],
  levels: Float64Array,
  hopS: number,
  restDb: number,
): string[] {
  return [echoWords(x, sampleRate, strokes), ringWords(levels, hopS, restDb)].filter((w) => w !== null)
}

function echoWords(x: Float32Array, sampleRate: number, strokes: readonly Span[]): string | null {
  const alone = strokes.map(({ from }, i) => x.subarray(from, strokes.at(i + 1)?.from ?? Math.min(x.length, from + 3 * sampleRate)))
  const long = alone.filter((s) => s.length >= ALONE_S * sampleRate)
  const every = Math.max(1, Math.ceil(long.length / STROKES))
  const { value, confidence } = echoOfStrokes(
    long.filter((_, i) => i % every === 0),
    sampleRate,
  )
  if (!value || confidence < SURE || value.db < LEAST_ECHO_DB) return null
  return `Every strum comes back ${Math.round(value.lagMs)} ms later, ${Math.round(-value.db)} dB softer: a delay is on it. Record the guitar alone, before any effect.`
}

/** Seconds for 60 dB of what goes on behind each stop; none where it goes on too short, bends, or does not fall. */
export function tailsBehindStops(levels: Float64Array, hopS: number, restDb: number): { stops: number; seconds: number[] } {
  const [drop, least] = [Math.round(STOP_MS / 1000 / hopS), Math.round(GOES_ON_MS / 1000 / hopS)]
  const seconds: number[] = []
  let stops = 0
  for (let k = 0; k + drop + 1 < levels.length; k++) {
    // the top before it, and the steepest fall within the time of a stop
    if (levels[k] < restDb + OVER_REST_DB + STOP_DB + 10 || levels[k] - levels[k + drop] < STOP_DB) continue
    stops++
    const from = k + drop
    let to = from
    while (to < levels.length && levels[to] > restDb + OVER_REST_DB && levels[to] < levels[Math.max(from, to - 3)] + 4) to++
    const tail = to - from >= least ? fall(levels.subarray(from, to), hopS) : null
    if (tail !== null) seconds.push(tail)
    k = Math.max(to, from)
  }
  return { stops, seconds }
}

/** Seconds for 60 dB of a straight fall; null of another one. */
function fall(db: Float64Array, hopS: number): number | null {
  const mean = db.reduce((s, v) => s + v, 0) / db.length
  const middle = (db.length - 1) / 2
  const [rise, run] = db.reduce(([a, b], v, k) => [a + (k - middle) * (v - mean), b + (k - middle) ** 2], [0, 0])
  const slope = rise / run
  const seconds = (-60 * hopS) / slope
  const swing = Math.sqrt(db.reduce((s, v, k) => s + (v - mean - slope * (k - middle)) ** 2, 0) / db.length)
  return slope < 0 && seconds > TAIL_S[0] && seconds < TAIL_S[1] && swing < STRAIGHT_DB ? seconds : null
}

function ringWords(levels: Float64Array, hopS: number, restDb: number): string | null {
  const { stops, seconds } = tailsBehindStops(levels, hopS, restDb)
  if (stops < 2 || seconds.length < 0.6 * stops) return null
  return `Behind ${seconds.length} of ${stops} stops it rings on, ${median(seconds).toFixed(1)} s for 60 dB: a reverb is on it, or strings were not damped. Record the guitar alone, before any effect.`
}
