import type { ResponseAsset } from '@fulgor/core/api'
import { inDirection, measureOf, timbreDistance, type Direction, type Kind, type Measure, type Timbre } from '@fulgor/core/cabinet'

export type Sort = 'name' | Measure | 'distance'
export type LengthFilter = 'any' | 'short' | 'middle' | 'long'
export type BrightnessFilter = 'any' | 'dark' | 'middle' | 'bright'

export interface Filters {
  readonly text: string
  readonly tag: string
  readonly length: LengthFilter
  readonly brightness: BrightnessFilter
  readonly favourites: boolean
}

export const NO_FILTERS: Filters = { text: '', tag: '', length: 'any', brightness: 'any', favourites: false }

/** Limits of the filters: ms until −60 dB, and Hz of brightness. */
export const LENGTHS: Record<LengthFilter, readonly [number, number]> = {
  any: [0, Infinity],
  short: [0, 50],
  middle: [50, 200],
  long: [200, Infinity],
}
export const BRIGHTNESS: Record<BrightnessFilter, readonly [number, number]> = {
  any: [0, Infinity],
  dark: [0, 1_600],
  middle: [1_600, 2_400],
  bright: [2_400, Infinity],
}

export function filtered(all: readonly ResponseAsset[], filters: Filters): ResponseAsset[] {
  const words = filters.text.toLowerCase().split(/\s+/).filter(Boolean)
  const [shortest, longest] = LENGTHS[filters.length]
  const [darkest, brightest] = BRIGHTNESS[filters.brightness]
  return all.filter((r) => {
    if (filters.favourites && !r.favourite) return false
    if (filters.tag !== '' && !r.tags.includes(filters.tag)) return false
    if (r.lengthMs < shortest || r.lengthMs >= longest || r.centroidHz < darkest || r.centroidHz >= brightest) return false
    const text = `${r.name} ${r.path} ${r.tags.join(' ')}`.toLowerCase()
    return words.every((w) => text.includes(w))
  })
}

/** Brightest, fullest, sharpest first; by distance the nearest first; names as people count. */
export function sorted(all: readonly ResponseAsset[], sort: Sort, target: Timbre | null): ResponseAsset[] {
  if (sort === 'name') return [...all].sort((a, b) => collator.compare(a.name, b.name))
  const value = (r: ResponseAsset) => (sort === 'distance' ? (target ? -timbreDistance(r, target) : 0) : measureOf(r, sort))
  return all
    .map((r) => [value(r), r] as const)
    .sort(([a], [b]) => b - a)
    .map(([, r]) => r)
}

const collator = new Intl.Collator('en', { numeric: true })

/** “Like this, but brighter”: nearest first. */
export function towards(all: readonly ResponseAsset[], from: Timbre, direction: Direction): ResponseAsset[] {
  return inDirection(all, from, direction).map((i) => all[i])
}

export interface Row {
  readonly response: ResponseAsset
  /** Of a kind's representative: how many more there are. */
  readonly alike: number
  readonly kind: number | null
}

/** A row a response, or a row a kind with the opened ones spread out. */
export function rowsOf(list: readonly ResponseAsset[], kinds: readonly Kind[] | null, opened: ReadonlySet<number>): Row[] {
  if (!kinds) return list.map((response) => ({ response, alike: 0, kind: null }))
  return kinds.flatMap((kind, k) => {
    const members = opened.has(k) ? kind.members.slice(1) : []
    return [
      { response: list[kind.representative], alike: kind.members.length - 1, kind: k },
      ...members.map((i) => ({ response: list[i], alike: 0, kind: null })),
    ]
  })
}

/** A fixed shuffle for blind listening, the same for the same seed. */
export function shuffled<T>(all: readonly T[], seed: number): T[] {
  const next = [...all]
  let state = seed >>> 0
  for (let i = next.length - 1; i > 0; i--) {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
    const j = state % (i + 1)
    ;[next[i], next[j]] = [next[j], next[i]]
  }
  return next
}
