import { modelOf } from '@fulgor/core/catalogue'
import {
  createStage,
  heardStages,
  placeOf,
  resolveStage,
  stagesOf,
  type Edit,
  type ParamMap,
  type Preset,
  type StageNode,
} from '@fulgor/core/preset'

/** What brings a preset nearer to a recording, in the order in which it is gone through. */
export const STEPS = ['cabinet', 'eq', 'amp', 'time'] as const
export type Step = (typeof STEPS)[number]
/** Orders of work of two schools. */
export const ORDERS: Readonly<Record<'cabinet' | 'amp', readonly Step[]>> = {
  cabinet: ['cabinet', 'eq', 'amp', 'time'],
  amp: ['amp', 'cabinet', 'eq', 'time'],
}

/** Something that could be done, as one edit. */
export interface Proposal {
  readonly id: string
  readonly step: Step
  readonly name: string
  readonly detail: string
  readonly edit: Edit
  /** What it is a kind of, for the list. */
  readonly kind: string
  /** What it costs elsewhere. */
  readonly warning?: string
}

/** The last stage of a family that is heard in a snapshot. */
export const heardOf = (preset: Preset, snapshot: string, family: string): StageNode | undefined =>
  heardStages(preset, snapshot).findLast((s) => modelOf(s.model).family === family)

/** The last stage of a family that there is, heard or not. */
export const anyOf = (preset: Preset, family: string): StageNode | undefined =>
  stagesOf(preset.chain).findLast((s) => modelOf(s.model).family === family)

/** Values of a stage in one snapshot, on. */
export const setAll = (stage: string, snapshot: string, params: ParamMap): Edit[] => [
  { type: 'setOn', stage, snapshot, on: true },
  ...Object.entries(params).map(([param, value]): Edit => ({ type: 'setParam', stage, snapshot, param, value })),
]

/** A new stage that only one snapshot hears. */
export function added(
  preset: Preset,
  snapshot: string,
  id: string,
  model: string,
  beside: string,
  behind: boolean,
  params: ParamMap,
): Edit[] {
  const place = placeOf(preset, beside) ?? { lane: null, index: preset.chain.length }
  const others = preset.snapshots.length > 1
  return [
    { type: 'addStage', stage: id, model, lane: place.lane, index: place.index + (behind ? 1 : 0) },
    ...(others ? [{ type: 'setOn', stage: id, snapshot: null, on: false } as const] : []),
    ...setAll(id, snapshot, params),
  ]
}

/** Values of a stage as they are in a snapshot. */
export const valuesOf = (preset: Preset, snapshot: string, stage: StageNode): ParamMap => resolveStage(preset, stage, snapshot).params

/** A model's own values. */
export const startOf = (model: string): ParamMap => createStage('x', model).params
