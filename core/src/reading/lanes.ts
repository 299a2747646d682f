/** One lane against another that it is summed with. */
export interface LanePair {
  readonly lanes: readonly [string, string]
  /** ms by which the second comes later than the first where they are most alike. */
  readonly lateMs: number
  /** The second lies the other way round. */
  readonly inverted: boolean
  /** 0–1: how alike they are there. */
  readonly alike: number
  /** dB by which their sum is louder than unrelated sounds of these levels would be: +3 in phase, far below 0 where they cancel. */
  readonly sumDb: number
}

/** Lanes are looked at this far apart, ms, over so many s where they are loudest. */
const REACH_MS = 12
const SPAN_S = 0.2

/** @returns null where one of them is silent */
export function laneAgainst(ids: readonly [string, string], a: Float32Array, b: Float32Array, sampleRate: number): LanePair | null {
  const span = Math.min(a.length, Math.round(SPAN_S * sampleRate))
  const reach = Math.round((REACH_MS / 1000) * sampleRate)
  const start = loudest(a, span)
  const end = start + span
  const [pa, pb] = [energy(a, start, end), energy(b, start, end)]
  if (pa < 1e-12 || pb < 1e-12) return null
  const at = (lag: number): number => {
    let sum = 0
    for (let n = Math.max(start, -lag); n < Math.min(end, b.length - lag); n++) sum += a[n] * b[n + lag]
    return sum
  }
  let best = { lag: 0, value: at(0) }
  for (let lag = -reach; lag <= reach; lag++) {
    const value = at(lag)
    if (Math.abs(value) > Math.abs(best.value) * 1.0001) best = { lag, value }
  }
  return {
    lanes: ids,
    lateMs: (1000 * best.lag) / sampleRate,
    inverted: best.value < 0,
    alike: Math.min(1, Math.abs(best.value) / Math.sqrt(pa * pb)),
    sumDb: 10 * Math.log10(Math.max(1e-9, (pa + pb + 2 * at(0)) / (pa + pb))),
  }
}

function energy(x: Float32Array, from: number, to: number): number {
  let sum = 0
  for (let n = from; n < Math.min(to, x.length); n++) sum += x[n] * x[n]
  return sum
}

/** Where the loudest stretch of a sound begins. */
function loudest(x: Float32Array, span: number): number {
  let [best, most] = [0, -1]
  for (let at = 0; at + span <= x.length; at += span) {
    const own = energy(x, at, at + span)
    if (own > most) [best, most] = [at, own]
  }
  return best
}
