import { modelOf, toTravel, type NumberSpec, type ParamSpec } from '@fulgor/core/catalogue'
import type { ParamValue } from '@fulgor/core/signal'
import { findStage } from '../chain/chain'
import { GUITAR_MODEL, GUITAR_STAGE } from '../chain/description'
import type { Preset } from '../preset'
import { curveAt } from './curves'
import type { Control, ControlTarget } from './description'

/** True for a source that moves by itself, whatever the player does. */
export const runsItself = ({ kind, declared }: Pick<Control, 'kind' | 'declared'>): boolean =>
  kind === 'lfo' || kind === 'envelope' || (kind === 'volume' && !declared)

/** Parameter of a macro that another source moves. */
export const POSITION = 'position'

/** Positions of what the player has moved, 0 heel to 1 toe, by control. A source that is missing leaves its targets alone. */
export type Positions = Readonly<Record<string, number>>

export const isLive = (target: ControlTarget, snapshot: string | null): boolean =>
  target.snapshots === null || (snapshot !== null && target.snapshots.includes(snapshot))

/** What a target's parameter is: a number, a choice, or null for `on` and a macro's position. @returns undefined when it is not there */
export function targetSpec(preset: Preset, target: Pick<ControlTarget, 'stage' | 'param'>): ParamSpec | null | undefined {
  const model = target.stage === GUITAR_STAGE ? GUITAR_MODEL : findStage(preset, target.stage)?.model
  if (model === undefined)
    return (preset.controls ?? []).some((c) => c.id === target.stage && c.kind === 'macro') && target.param === POSITION ? null : undefined
  if (target.param === 'on') return null
  const { params } = modelOf(model)
  return Object.hasOwn(params, target.param) ? params[target.param] : undefined
}

/** Even steps to the ear: a log taper is travelled in equal ratios, everything else in equal steps. */
const between = (spec: NumberSpec, from: number, to: number, share: number): number =>
  spec.taper === 'log' && spec.min > 0 ? from * Math.pow(to / from, share) : from + (to - from) * share

/**
 * The value that a target has at a position of its source, 0 heel to 1 toe. A choice runs through its options from one to the other;
 * `on` switches in the middle between 0 and 1.
 */
export function targetValue(spec: ParamSpec | null, target: Pick<ControlTarget, 'from' | 'to' | 'curve'>, position: number): ParamValue {
  const share = curveAt(target.curve, position)
  if (spec === null) return Number(target.from) + (Number(target.to) - Number(target.from)) * share
  if (spec.kind === 'number') return between(spec, Number(target.from), Number(target.to), share)
  const values = spec.options.map((o) => o.value)
  const [a, b] = [values.indexOf(String(target.from)), values.indexOf(String(target.to))]
  return values[Math.round(a + (b - a) * share)]
}

/** The position at which a target has a value, found by halving; null where its travel does not pass it. */
export function positionOf(spec: ParamSpec | null, target: Pick<ControlTarget, 'from' | 'to' | 'curve'>, value: ParamValue): number | null {
  if (spec === null || spec.kind !== 'number' || typeof value !== 'number') return null
  const at = (p: number) => toTravel(spec, Number(targetValue(spec, target, p)))
  const wanted = toTravel(spec, value)
  const rising = at(1) > at(0)
  if ((wanted - at(0)) * (wanted - at(1)) > 1e-12) return null
  let [low, high] = [0, 1]
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2
    if (at(middle) < wanted === rising) low = middle
    else high = middle
  }
  return (low + high) / 2
}

/** What moved parameters are, by stage and parameter, `on` among them; the source that stands later in the list wins. */
export type Moved = ReadonlyMap<string, ReadonlyMap<string, ParamValue | boolean>>

/** Positions with macros moved by what moves them. Macros may move macros, as deep as there are macros. */
export function withMacros(controls: readonly Control[], snapshot: string | null, positions: Positions): Positions {
  const macros = controls.filter((c) => c.kind === 'macro')
  if (macros.length === 0) return positions
  const found: Record<string, number> = { ...positions }
  for (let depth = 0; depth < macros.length; depth++)
    for (const { id, targets } of controls) {
      if (!(id in found)) continue
      for (const target of targets)
        if (target.param === POSITION && macros.some((m) => m.id === target.stage) && isLive(target, snapshot))
          found[target.stage] = Math.min(1, Math.max(0, Number(targetValue(null, target, found[id]))))
    }
  return found
}

/**
 * What sources make of their targets at these positions, macros moved already.
 * @param specOf the target's parameter; undefined leaves the target out
 */
export function movedTargets(
  controls: readonly Control[],
  positions: Positions,
  specOf: (target: ControlTarget) => ParamSpec | null | undefined,
): Moved {
  const moved = new Map<string, Map<string, ParamValue | boolean>>()
  for (const { id, targets } of controls) {
    if (!(id in positions)) continue
    for (const target of targets) {
      const spec = target.param === POSITION ? undefined : specOf(target)
      if (spec === undefined) continue
      const value = targetValue(spec, target, positions[id])
      const stage = moved.get(target.stage) ?? new Map<string, ParamValue | boolean>()
      moved.set(target.stage, stage.set(target.param, target.param === 'on' ? Number(value) >= 0.5 : value))
    }
  }
  return moved
}

/** What the sources move in a snapshot at these positions. */
export function movedBy(preset: Preset, snapshot: string | null, positions: Positions): Moved {
  const controls = preset.controls ?? []
  return movedTargets(controls, withMacros(controls, snapshot, positions), (target) =>
    isLive(target, snapshot) ? targetSpec(preset, target) : undefined,
  )
}
