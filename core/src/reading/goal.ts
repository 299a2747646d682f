import { fromTravel, modelOf, type NumberSpec } from '@fulgor/core/catalogue'
import { clippingStages, type Preset, type StageNode } from '@fulgor/core/preset'
import type { Strength } from '@fulgor/core/riffs'

/** How a snapshot shall answer the hand. */
export interface Goal {
  readonly id: 'clean' | 'edge'
  readonly words: string
  /** Stroke that it is about. */
  readonly stroke: Strength
  /** % of harmonics that it may not pass, or that it just reaches. */
  readonly percent: number
}

/** From 1 % on a trained ear hears it, 3 % are grit (common practice, no source). */
export const GOALS: readonly Goal[] = [
  { id: 'clean', words: 'Clean: a hard strum stays under 1 %', stroke: 'hard', percent: 1 },
  { id: 'edge', words: 'Breaks up from normal picking: 3 % there', stroke: 'normal', percent: 3 },
]

/** A value that sets how much a snapshot distorts. */
export interface GainParam {
  readonly stage: StageNode
  readonly param: string
  readonly spec: NumberSpec
}

/** What a goal can turn in a snapshot: gains of drives and amps that are on, and masters. */
export function gainParams(preset: Preset, snapshot: string): GainParam[] {
  return clippingStages(preset, snapshot).flatMap((stage) => {
    const { params } = modelOf(stage.model)
    return ['gain', 'fuzz', 'sustain', 'boost', 'master'].flatMap((param) => {
      const spec = params[param] as (typeof params)[string] | undefined
      return spec?.kind === 'number' ? [{ stage, param, spec }] : []
    })
  })
}

/** Where a search for a distortion ended. */
export interface Found {
  readonly value: number
  /** % at that value. */
  readonly percent: number
  /** The range ended before: even its end distorts more, or less, than wanted. */
  readonly limited: boolean
}

const ROUNDS = 9

/**
 * The most gain at which a distortion does not pass a share, by halving the slider's travel: the share rises with it. A generator: it
 * yields a value and is given the % there.
 */
export function* gainSearch(spec: NumberSpec, percent: number): Generator<number, Found, number> {
  let [low, high] = [0, 1]
  const least = yield fromTravel(spec, low)
  if (least > percent) return { value: fromTravel(spec, low), percent: least, limited: true }
  const most = yield fromTravel(spec, high)
  if (most <= percent) return { value: fromTravel(spec, high), percent: most, limited: most < percent / 2 }
  let best = { value: fromTravel(spec, low), percent: least }
  for (let round = 0; round < ROUNDS; round++) {
    const middle = (low + high) / 2
    const value = fromTravel(spec, middle)
    const there = yield value
    if (there <= percent) {
      low = middle
      best = { value, percent: there }
    } else high = middle
  }
  return { ...best, limited: false }
}
