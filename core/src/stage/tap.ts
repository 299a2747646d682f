import { NOTE_VALUES } from './noteValues'

/** What a row of taps says. */
export interface TapEstimate {
  /** ms between two taps. */
  readonly intervalMs: number
  /** Taps that count, after outliers were left out. */
  readonly taps: number
  /** Standard error of the interval, ms; null with two taps. */
  readonly errorMs: number | null
}

/** ms after which a tap begins a new row. */
export const TAP_PAUSE_MS = 2_500
/** A tap that lies further than this share of an interval from its place in the row is left out. */
const STRAY = 0.25

/**
 * Steady interval of taps: a straight line through tap times over their numbers (least squares), so that every tap counts and one that
 * was missed or doubled does not; taps after a pause begin anew.
 * Source: linear regression of onset times, common practice in tapping research (Repp, Psychonomic Bulletin & Review 2005).
 * @param times ms, ascending
 * @returns null with fewer than two taps
 */
export function estimateTaps(times: readonly number[]): TapEstimate | null {
  let start = 0
  for (let i = 1; i < times.length; i++) if (times[i] - times[i - 1] > TAP_PAUSE_MS) start = i
  const row = times.slice(start)
  if (row.length < 2) return null
  const steps = row.slice(1).map((t, i) => t - row[i])
  const middle = [...steps].sort((a, b) => a - b)[Math.floor(steps.length / 2)]
  // number each tap by how many intervals lie before it
  const numbered: { n: number; t: number }[] = [{ n: 0, t: row[0] }]
  for (const t of row.slice(1)) {
    const last = numbered[numbered.length - 1]
    const count = (t - last.t) / middle
    const whole = Math.round(count)
    if (whole >= 1 && Math.abs(count - whole) <= STRAY) numbered.push({ n: last.n + whole, t })
  }
  if (numbered.length < 2) return { intervalMs: middle, taps: row.length, errorMs: null }
  const meanN = numbered.reduce((s, p) => s + p.n, 0) / numbered.length
  const meanT = numbered.reduce((s, p) => s + p.t, 0) / numbered.length
  const spread = numbered.reduce((s, p) => s + (p.n - meanN) ** 2, 0)
  const intervalMs = numbered.reduce((s, p) => s + (p.n - meanN) * (p.t - meanT), 0) / spread
  const rest = numbered.reduce((s, p) => s + (p.t - meanT - intervalMs * (p.n - meanN)) ** 2, 0)
  const errorMs = numbered.length > 2 ? Math.sqrt(rest / (numbered.length - 2) / spread) : null
  return { intervalMs, taps: numbered.length, errorMs }
}

/**
 * bpm of quarters from an interval that the player taps as another note value: tapping halves, a tap is two quarters.
 * @throws RangeError for an unknown note value
 */
export function tappedBpm(intervalMs: number, noteId = 'quarter'): number {
  const note = NOTE_VALUES.find((n) => n.id === noteId)
  if (!note) throw new RangeError(`There is no note value “${noteId}”.`)
  return (60_000 / intervalMs) * note.beats
}

/** The note value nearest to a time at a tempo, and how far off it is. */
export function nearestNote(bpm: number, ms: number): { id: string; name: string; offMs: number } {
  const beat = 60_000 / bpm
  const best = NOTE_VALUES.reduce((a, b) => (Math.abs(Math.log(ms / (b.beats * beat))) < Math.abs(Math.log(ms / (a.beats * beat))) ? b : a))
  return { id: best.id, name: best.name, offMs: ms - best.beats * beat }
}
