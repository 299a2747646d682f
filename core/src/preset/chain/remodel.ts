import { fromTravel, modelOf, roundValue, toTravel, type ParamSpec } from '@fulgor/core/catalogue'
import type { ParamValue } from '@fulgor/core/signal'
import type { Control } from '../controls/description'
import type { Preset } from '../preset'
import type { StageOverride } from '../snapshots/description'
import type { ParamMap } from '../values'
import { defaultParams, type StageNode } from './description'

/** A value of a like-named parameter in the other model's terms; undefined where it has no meaning there. */
function fitted(from: ParamSpec | undefined, to: ParamSpec | undefined, value: ParamValue): ParamValue | undefined {
  if (!from || !to || from.kind !== to.kind) return undefined
  if (to.kind === 'choice') return to.options.some((o) => o.value === value) ? value : undefined
  if (from.kind !== 'number') return undefined
  const number = Number(value)
  return roundValue(Math.min(to.max, Math.max(to.min, from.unit === to.unit ? number : fromTravel(to, toTravel(from, number)))))
}

function fittedParams(before: string, after: string, params: ParamMap): ParamMap {
  const [from, to] = [modelOf(before).params, modelOf(after).params]
  return Object.fromEntries(
    Object.entries(params).flatMap(([key, value]) => {
      const kept = fitted(from[key], to[key], value)
      return kept === undefined ? [] : [[key, kept]]
    }),
  )
}

/** Another model in the place of a stage: like-named values stay, within the ranges of the new one; the rest is its default. */
export function remodelled({ bench, ...stage }: StageNode, model: string): StageNode {
  const params = { ...defaultParams(model), ...fittedParams(stage.model, model, stage.params) }
  return { ...stage, model, params, ...(bench && model === 'cabinet' ? { bench } : {}) }
}

/** What snapshots and sources say of a stage that has become another model. */
export function followModel(preset: Preset, before: StageNode, model: string): Preset {
  const cell = ({ params, bench, ...rest }: StageOverride): StageOverride => {
    const kept = fittedParams(before.model, model, params ?? {})
    return { ...rest, ...(Object.keys(kept).length > 0 ? { params: kept } : {}), ...(bench && model === 'cabinet' ? { bench } : {}) }
  }
  const snapshots = preset.snapshots.map((snapshot) => {
    const { [before.id]: own, ...others } = snapshot.stages
    const next = (own as StageOverride | undefined) ? cell(own) : {}
    return { ...snapshot, stages: Object.keys(next).length === 0 ? others : { ...others, [before.id]: next } }
  })
  const [from, to] = [modelOf(before.model).params, modelOf(model).params]
  const source = (control: Control): Control => ({
    ...control,
    targets: control.targets.flatMap((target) => {
      if (target.stage !== before.id || target.param === 'on') return [target]
      const ends = [target.from, target.to].map((value) => fitted(from[target.param], to[target.param], value))
      return ends[0] === undefined || ends[1] === undefined ? [] : [{ ...target, from: ends[0], to: ends[1] }]
    }),
  })
  return { ...preset, snapshots, ...(preset.controls ? { controls: preset.controls.map(source) } : {}) }
}

/** A stage with its level moved by some dB, held in its range. */
export function louder<T extends { readonly params?: ParamMap }>(model: string, part: T, gainDb: number): T {
  const spec = modelOf(model).params.level
  const level = part.params?.level
  if (spec.kind !== 'number' || typeof level !== 'number') return part
  return { ...part, params: { ...part.params, level: roundValue(Math.min(spec.max, Math.max(spec.min, level + gainDb))) } }
}
