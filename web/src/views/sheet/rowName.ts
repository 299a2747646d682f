import { modelOf } from '@fulgor/core/catalogue'
import type { StageNode } from '@fulgor/core/preset'
import type { SheetRow } from './rows'

/** The name of a row: what the player calls a stage, or its model, or the lane's number. */
export const rowName = (row: Pick<SheetRow, 'kind' | 'number'>, stage: StageNode): string =>
  row.kind === 'lane' ? `Lane ${row.number}` : (stage.name ?? modelOf(stage.model).name)
