import { cabinet } from './cabinet'
import { delay } from './delay'
import { gate } from './gate'
import { hall } from './hall'
import { lantern } from './lantern'
import { midHumpDrive } from './midHumpDrive'
import type { StageModel } from './model'
import { parametricEq } from './parametricEq'
import { output, trim } from './trim'

/** Every model, in the order in which a chain is usually built. */
export const catalogue: readonly StageModel[] = [gate, midHumpDrive, lantern, cabinet, parametricEq, delay, hall, trim, output]

const byId = new Map(catalogue.map((model) => [model.id, model]))

export const findModel = (id: string): StageModel | undefined => byId.get(id)

/** @throws RangeError when no model has this id */
export function modelOf(id: string): StageModel {
  const model = byId.get(id)
  if (!model) throw new RangeError(`There is no stage model “${id}”.`)
  return model
}
