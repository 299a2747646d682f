import { BAND_HZ } from './inspect'

/** What ranking looks at: brightness and third-octave levels against the loudness. */
export interface Timbre {
  readonly centroidHz: number
  readonly bands: readonly number[]
}

/** Bands that players talk of, Hz (common practice, no source). */
export const REGIONS = { body: [80, 250], bite: [1_500, 3_150], fizz: [5_000, 12_500] } as const

export type Measure = 'brightness' | keyof typeof REGIONS

/** Mean power of a region against the loudness, dB. */
export function regionDb({ bands }: Timbre, region: keyof typeof REGIONS): number {
  const [from, to] = REGIONS[region]
  let sum = 0
  let count = 0
  BAND_HZ.forEach((hz, i) => {
    if (hz < from || hz > to) return
    sum += Math.pow(10, bands[i] / 10)
    count++
  })
  return 10 * Math.log10(sum / count)
}

export const measureOf = (timbre: Timbre, measure: Measure): number =>
  measure === 'brightness' ? timbre.centroidHz : regionDb(timbre, measure)

/** Bands that a difference is taken over: 80 Hz to 8 kHz. */
const FROM = BAND_HZ.indexOf(80)
const TO = BAND_HZ.indexOf(8_000)
/** What lies lower than this against the loudness is the same silence. */
const FLOOR = -40

/** Mean difference of the third-octave levels from 80 Hz to 8 kHz at equal loudness, dB. */
export function timbreDistance(a: Timbre, b: Timbre): number {
  let sum = 0
  for (let i = FROM; i <= TO; i++) sum += Math.abs(Math.max(FLOOR, a.bands[i]) - Math.max(FLOOR, b.bands[i]))
  return sum / (TO - FROM + 1)
}

export type Direction = 'brighter' | 'darker' | 'thicker' | 'thinner'

/** How much further in a direction something must be to count: brightness by a twelfth, body by 1 dB. */
const STEP = { brightness: Math.log2(13 / 12), body: 1 }

/**
 * Those that lie in a direction from `from`, the most alike otherwise first: “like this, but brighter”.
 * @returns indices into `all`
 */
export function inDirection(all: readonly Timbre[], from: Timbre, direction: Direction): number[] {
  const beyond = (t: Timbre): boolean => {
    if (direction === 'brighter') return Math.log2(t.centroidHz / from.centroidHz) >= STEP.brightness
    if (direction === 'darker') return Math.log2(t.centroidHz / from.centroidHz) <= -STEP.brightness
    const body = regionDb(t, 'body') - regionDb(from, 'body')
    return direction === 'thicker' ? body >= STEP.body : body <= -STEP.body
  }
  return all
    .map((t, index) => ({ index, t }))
    .filter(({ t }) => beyond(t))
    .map(({ index, t }) => ({ index, distance: timbreDistance(t, from) }))
    .sort((a, b) => a.distance - b.distance || a.index - b.index)
    .map(({ index }) => index)
}

/** Responses that sound alike. */
export interface Kind {
  /** The one that stands for the others: nearest to all of them. */
  readonly representative: number
  /** Nearest to the representative first, itself included. */
  readonly members: readonly number[]
  /** Distance of the farthest member from the representative, dB. */
  readonly spreadDb: number
}

/**
 * Groups responses into `count` kinds: centres as far apart as can be (Gonzalez, Theoretical Computer Science 1985), then k-medoids
 * by alternation (Park & Jun, Expert Systems with Applications 2009). The same input gives the same kinds; the largest come first.
 */
export function groupKinds(all: readonly Timbre[], count: number, onProgress?: (share: number) => void): Kind[] {
  const wanted = Math.max(1, Math.min(count, all.length))
  if (all.length === 0) return []
  let centres = spreadCentres(all, wanted)
  let groups = assign(all, centres)
  for (let round = 0; round < 12; round++) {
    onProgress?.((round + 1) / 12)
    const next = groups.map((members) => medoid(all, members))
    if (next.every((c, i) => c === centres[i])) break
    centres = next
    groups = assign(all, centres)
  }
  return groups
    .map((members, i) => {
      const centre = centres[i]
      const ordered = [...members].sort((a, b) => timbreDistance(all[a], all[centre]) - timbreDistance(all[b], all[centre]) || a - b)
      return { representative: centre, members: ordered, spreadDb: timbreDistance(all[ordered.at(-1) ?? centre], all[centre]) }
    })
    .sort((a, b) => b.members.length - a.members.length || a.representative - b.representative)
}

function spreadCentres(all: readonly Timbre[], count: number): number[] {
  const centres = [0]
  const nearest = all.map((t) => timbreDistance(t, all[0]))
  while (centres.length < count) {
    let farthest = 0
    for (let i = 1; i < all.length; i++) if (nearest[i] > nearest[farthest]) farthest = i
    // nothing is left that differs
    if (nearest[farthest] === 0) break
    centres.push(farthest)
    for (let i = 0; i < all.length; i++) nearest[i] = Math.min(nearest[i], timbreDistance(all[i], all[farthest]))
  }
  return centres
}

function assign(all: readonly Timbre[], centres: readonly number[]): number[][] {
  const groups = centres.map((): number[] => [])
  all.forEach((t, i) => {
    let best = 0
    let least = Infinity
    centres.forEach((centre, c) => {
      const distance = centre === i ? -1 : timbreDistance(t, all[centre])
      if (distance < least) {
        least = distance
        best = c
      }
    })
    groups[best].push(i)
  })
  return groups
}

/** The member with the smallest sum of distances; of a large group, the one nearest to its mean. */
function medoid(all: readonly Timbre[], members: readonly number[]): number {
  const mean: Timbre = {
    centroidHz: 0,
    bands: BAND_HZ.map((_, b) => members.reduce((sum, i) => sum + all[i].bands[b], 0) / members.length),
  }
  const cost =
    members.length > 80
      ? (i: number) => timbreDistance(all[i], mean)
      : (i: number) => members.reduce((sum, j) => sum + timbreDistance(all[i], all[j]), 0)
  let best = members[0]
  let least = Infinity
  for (const i of members) {
    const c = cost(i)
    if (c < least) {
      least = c
      best = i
    }
  }
  return best
}
