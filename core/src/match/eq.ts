import { design, identity } from '@fulgor/core/signal'

/** A band of an equaliser that brings a sound nearer to a recording. */
export interface EqBand {
  readonly hz: number
  readonly db: number
  readonly q: number
}

export interface EqLimits {
  /** Bands at most, 1–5. */
  readonly bands: number
  readonly cutOnly: boolean
  /** dB that a band may turn by. */
  readonly mostDb: number
  readonly q: readonly [least: number, most: number]
}

/** Broad, for the tone. */
export const CREATIVE: EqLimits = { bands: 3, cutOnly: false, mostDb: 9, q: [0.5, 2] }
/** Narrow cuts, for what sticks out. */
export const CORRECTIVE: EqLimits = { bands: 3, cutOnly: true, mostDb: 12, q: [2.5, 8] }

export interface FoundEq {
  readonly bands: readonly EqBand[]
  /** dB that are left. */
  readonly db: number
}

/** Octaves that two bands lie apart at least: closer ones are one band, or undo each other. */
const LEAST_APART = 0.5
/** Places that bands are spread over to begin with. */
const PLACES = 8
/** dB that a further band must win, to be worth having. */
const WORTH_DB = 0.08

/**
 * At most so many bells that bring a difference nearest to nothing at equal level: one after another where it wins most, and all of them
 * moved together after each.
 * @param hz where the difference is told
 * @param apart sound less recording, dB
 */
export function eqFor(hz: readonly number[], apart: readonly number[], limits: EqLimits, sampleRate = 48_000): FoundEq {
  const turns = hz.map((f) => [Math.cos((2 * Math.PI * f) / sampleRate), Math.cos((4 * Math.PI * f) / sampleRate)] as const)
  const section = identity()
  const shape = (band: EqBand): number[] => {
    design.bell(section, band.hz, band.q, band.db, sampleRate)
    const { b0, b1, b2, a1, a2 } = section
    const [n0, n1, n2] = [b0 * b0 + b1 * b1 + b2 * b2, 2 * (b0 * b1 + b1 * b2), 2 * b0 * b2]
    const [d0, d1, d2] = [1 + a1 * a1 + a2 * a2, 2 * (a1 + a1 * a2), 2 * a2]
    return turns.map(([one, two]) => 10 * Math.log10((n0 + n1 * one + n2 * two) / (d0 + d1 * one + d2 * two)))
  }
  const leftAfter = (shapes: readonly (readonly number[])[]): number => {
    let [sum, square] = [0, 0]
    for (let k = 0; k < hz.length; k++) {
      let v = apart[k]
      for (const s of shapes) v += s[k]
      sum += v
      square += v * v
    }
    return Math.sqrt(Math.max(0, square / hz.length - (sum / hz.length) ** 2))
  }
  const held = (band: EqBand): EqBand => ({
    hz: Math.min(hz[hz.length - 1], Math.max(hz[0], band.hz)),
    db: Math.min(limits.cutOnly ? 0 : limits.mostDb, Math.max(-limits.mostDb, band.db)),
    q: Math.min(limits.q[1], Math.max(limits.q[0], band.q)),
  })
  const gains = [-1, -0.66, -0.33, ...(limits.cutOnly ? [] : [0.33, 0.66, 1])]
  const widths = [limits.q[0], Math.sqrt(limits.q[0] * limits.q[1]), limits.q[1]]
  interface Standing {
    readonly bands: readonly EqBand[]
    readonly shapes: readonly (readonly number[])[]
    readonly left: number
  }
  const crowded = (hertz: number, others: readonly EqBand[]): boolean =>
    others.some((other) => Math.abs(Math.log2(other.hz / hertz)) < LEAST_APART)
  /** With one more band, where it wins most; null where none wins. */
  const withOne = (now: Standing): Standing | null => {
    let best: { band: EqBand; shape: number[]; left: number } | null = null
    for (let k = 0; k < hz.length; k += Math.max(1, Math.floor(hz.length / 24))) {
      if (crowded(hz[k], now.bands)) continue
      for (const q of widths)
        for (const gain of gains) {
          const band = { hz: hz[k], db: gain * limits.mostDb, q }
          const own = shape(band)
          const after = leftAfter([...now.shapes, own])
          if (after < (best?.left ?? now.left)) best = { band, shape: own, left: after }
        }
    }
    return best && refined([...now.bands, best.band], [...now.shapes, best.shape], best.left)
  }
  const nothing: Standing = { bands: [], shapes: [], left: leftAfter([]) }
  const mean = apart.reduce((sum, v) => sum + v / hz.length, 0)
  // one after another is a start, and so are bands spread over the range in every way: the best of them is gone on from
  const seeds = choose(
    Array.from({ length: PLACES }, (_, k) => Math.floor(((k + 0.5) * hz.length) / PLACES)),
    limits.bands,
  ).map((places) => {
    const bands = places.map((k) => held({ hz: hz[k], db: mean - apart[k], q: widths[1] }))
    const shapes = bands.map(shape)
    return refined(bands, shapes, leftAfter(shapes), 0.3)
  })
  let now = nothing
  while (now.bands.length < limits.bands) {
    const next = withOne(now)
    if (!next) break
    now = next
  }
  for (const seed of seeds.sort((a, b) => a.left - b.left).slice(0, 4)) {
    const next = refined(seed.bands, seed.shapes, seed.left)
    if (next.left < now.left - 1e-3) now = next
  }
  // what is hardly worth a band goes
  for (let gone = true; gone && now.bands.length > 0;) {
    const fewer = now.bands
      .map((_, k) => {
        const [bands, shapes] = [now.bands.filter((_, j) => j !== k), now.shapes.filter((_, j) => j !== k)]
        return refined(bands, shapes, leftAfter(shapes))
      })
      .sort((a, b) => a.left - b.left)[0]
    gone = fewer.left - now.left < WORTH_DB
    if (gone) now = fewer
  }
  const { bands, left } = now
  return { bands: [...bands].sort((a, b) => a.hz - b.hz), db: left }

  function refined(from: readonly EqBand[], own: readonly (readonly number[])[], start: number, least = 0.01): Standing {
    const now = [...from]
    const curves = [...own]
    let left = start
    for (let step = 1; step > least;) {
      const before = left
      now.forEach((_, k) => {
        for (const [octaves, db, width] of MOVES) {
          const tried = held({
            hz: now[k].hz * Math.pow(2, (octaves * step) / 2),
            db: now[k].db + 2 * db * step,
            q: now[k].q * Math.pow(2, width * step),
          })
          if (
            octaves !== 0 &&
            crowded(
              tried.hz,
              now.filter((_, j) => j !== k),
            )
          )
            continue
          const curve = shape(tried)
          const after = leftAfter(curves.map((c, j) => (j === k ? curve : c)))
          if (after < left - 1e-6) {
            now[k] = tried
            curves[k] = curve
            left = after
          }
        }
      })
      if (before - left < 1e-3) step /= 2
    }
    return { bands: now, shapes: curves, left }
  }
}

/** Every choice of so many of some. */
function choose(from: readonly number[], count: number): number[][] {
  if (count === 0) return [[]]
  return from.flatMap((first, k) => choose(from.slice(k + 1), count - 1).map((rest) => [first, ...rest]))
}

const MOVES = [
  [1, 0, 0],
  [-1, 0, 0],
  [0, 1, 0],
  [0, -1, 0],
  [0, 0, 1],
  [0, 0, -1],
  [0, 1, 1],
  [0, -1, -1],
] as const
