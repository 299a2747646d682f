import { modelOf } from '@fulgor/core/catalogue'
import { DocumentError } from '@fulgor/core/document'
import { partsOf } from '../chain/chain'
import type { Preset } from '../preset'
import { readValues } from '../values'
import type { StageOverride } from './description'

/** Whether what snapshots say fits the chain and the other snapshots. @throws DocumentError */
export function checkSnapshots({ chain, snapshots }: Preset): void {
  const models = new Map(partsOf(chain).map((s) => [s.id, s.model]))
  snapshots.forEach(({ id, parent, stages }, i) => {
    if (parent !== undefined && (parent === id || !snapshots.some((other) => other.id === parent)))
      throw new DocumentError(`snapshots[${i}].parent`, 'must name another snapshot.')
    for (const [stage, override] of Object.entries(stages)) {
      const path = `snapshots[${i}].stages.${stage}`
      const model = models.get(stage)
      if (model === undefined) throw new DocumentError(path, 'there is no such stage in the chain.')
      checkOverride(override, path, model)
    }
  })
}

/** Whether changes fit the model that they are of. @throws DocumentError */
export function checkOverride({ params, bench }: StageOverride, path: string, model: string): void {
  if (params !== undefined) readValues(params, `${path}.params`, modelOf(model).params, model)
  if (bench !== undefined && model !== 'cabinet') throw new DocumentError(`${path}.bench`, 'is not a known field.')
}
