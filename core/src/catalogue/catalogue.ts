import { amps } from './amps'
import { cabinet } from './cabinet'
import { delays } from './delays'
import { drives } from './drives'
import { compressors, gate } from './dynamics'
import { equalisers } from './equalisers'
import { filters, pitches } from './filters'
import { guitarInput } from './guitarInput'
import type { StageModel } from './model'
import { modulations } from './modulation'
import { parametricEq } from './parametricEq'
import { reverbs } from './reverbs'
import { lane, utilities } from './utility'

/** Every model that can be added, in the order in which a chain is usually built. */
export const catalogue: readonly StageModel[] = [
  gate,
  ...compressors,
  ...filters,
  ...pitches,
  ...drives,
  ...amps,
  cabinet,
  parametricEq,
  ...equalisers,
  ...modulations,
  ...delays,
  ...reverbs,
  ...utilities,
]

const byId = new Map([...catalogue, lane, guitarInput].map((model) => [model.id, model]))

export const findModel = (id: string): StageModel | undefined => byId.get(id)

/** @throws RangeError when no model has this id */
export function modelOf(id: string): StageModel {
  const model = byId.get(id)
  if (!model) throw new RangeError(`There is no stage model “${id}”.`)
  return model
}
