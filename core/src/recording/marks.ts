import { LEAST_PART_S, MOST_MARKED_S, MOST_MARKS, type Part, type Recording } from './description'
import { within } from './loop'

/** s of a recording that count where nothing is marked. */
const UNMARKED_S = 60

/** Stretches that count: those that are marked, or else the first minute of what is not near the ends. */
export function marksOf({ marks = [], seconds }: Pick<Recording, 'marks' | 'seconds'>): readonly Part[] {
  if (marks.length > 0) return marks
  if (seconds <= UNMARKED_S) return [{ from: 0, to: seconds }]
  const from = Math.min(0.1 * seconds, seconds - UNMARKED_S)
  return [{ from, to: from + UNMARKED_S }]
}

/**
 * The stretches with one drawn anew, or in the place of one: in the order of time, what touches made one, the whole no longer than is
 * looked at. The new one keeps its start.
 * @param instead index of the one that it takes the place of; null adds it
 */
export function withMark(marks: readonly Part[], mark: Part, instead: number | null, seconds: number): readonly Part[] {
  const others = marks.filter((_, k) => k !== instead)
  const own = within(mark, seconds)
  let rest = [...others]
  let [from, to] = [own.from, Math.min(own.to, own.from + MOST_MARKED_S)]
  for (const other of others)
    if (other.from <= to && other.to >= from) {
      from = Math.min(from, other.from)
      to = Math.max(to, other.to)
      rest = rest.filter((r) => r !== other)
    }
  const room = MOST_MARKED_S - rest.reduce((sum, r) => sum + r.to - r.from, 0)
  if (room < LEAST_PART_S || rest.length >= MOST_MARKS) return marks
  return [...rest, { from, to: Math.min(to, from + room) }].sort((a, b) => a.from - b.from)
}

export const withoutMark = (marks: readonly Part[], index: number): readonly Part[] => marks.filter((_, k) => k !== index)

/** s that the end of one stretch and the start of the next are mixed over. */
const SEAM_S = 0.01

/** Stretches of a signal as one, each faded into the next: a step would hold every frequency. */
export function joined(stretches: readonly Float32Array[], sampleRate: number): Float32Array {
  const seam = Math.round(SEAM_S * sampleRate)
  const overlaps = stretches.slice(1).map((next, k) => Math.min(seam, next.length >> 1, stretches[k].length >> 1))
  const out = new Float32Array(stretches.reduce((sum, s) => sum + s.length, 0) - overlaps.reduce((sum, o) => sum + o, 0))
  let at = 0
  stretches.forEach((stretch, k) => {
    const before = k === 0 ? 0 : overlaps[k - 1]
    const behind = k < overlaps.length ? overlaps[k] : 0
    at -= before
    for (let n = 0; n < stretch.length; n++) {
      const rising = n < before ? (n + 0.5) / before : 1
      const falling = n >= stretch.length - behind ? (stretch.length - n - 0.5) / behind : 1
      out[at + n] += stretch[n] * rising * falling
    }
    at += stretch.length
  })
  return out
}

/** Where a time of the stretches as one lies in the file, s. */
export function timeInFile(marks: readonly Part[], s: number): number {
  let left = s
  for (const { from, to } of marks) {
    if (left <= to - from) return from + left
    left -= to - from
  }
  return marks.at(-1)?.to ?? 0
}

/** s of a stretch that is marked without being drawn, and s that it keeps from others. */
const [NEW_S, AWAY_S] = [10, 1]

/** Where one more stretch has room: behind the last one, or else in the widest gap; null where there is none. */
export function freeStretch(marks: readonly Part[], seconds: number): Part | null {
  const gaps = [{ from: 0, to: (marks.at(0)?.from ?? seconds + AWAY_S) - AWAY_S }]
  marks.forEach(({ to }, k) => gaps.push({ from: to + AWAY_S, to: k + 1 < marks.length ? marks[k + 1].from - AWAY_S : seconds }))
  const roomy = gaps.filter(({ from, to }) => to - from >= AWAY_S)
  const best = roomy.find((g) => g.to === seconds) ?? roomy.sort((a, b) => b.to - b.from - (a.to - a.from)).at(0)
  return best ? { from: best.from, to: Math.min(best.to, best.from + NEW_S) } : null
}
