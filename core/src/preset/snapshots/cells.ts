import { catalogue, modelOf } from '@fulgor/core/catalogue'
import { choice, constant, DocumentError, flag, list, optional, readWith, record } from '@fulgor/core/document'
import { benchField } from '../bench/description'
import { partsOf } from '../chain/chain'
import { MAX_STAGES, type StageNode } from '../chain/description'
import type { Preset } from '../preset'
import { checkOverride } from './check'
import { looseValues, MAX_SNAPSHOTS } from './description'
import { resolveStage, type ResolvedStage } from './resolve'

const CELLS_FORMAT = 'fulgor.cells'

/** Cells of the matrix that were copied: whole values, so that they sound the same over another base. */
export interface CellBlock {
  readonly format: typeof CELLS_FORMAT
  /** From the top; every row has as many cells. */
  readonly rows: readonly { readonly model: string; readonly cells: readonly ResolvedStage[] }[]
}

/** @param snapshots null is the base */
export function copyCells(preset: Preset, stages: readonly string[], snapshots: readonly (string | null)[]): CellBlock {
  const wanted = new Set(stages)
  const rows = partsOf(preset.chain)
    .filter((stage) => wanted.has(stage.id))
    .map((stage) => ({ model: stage.model, cells: snapshots.map((s) => resolveStage(preset, stage, s)) }))
  return { format: CELLS_FORMAT, rows }
}

const cellRecord = record({ on: flag(), params: looseValues, bench: optional(benchField) })

const blockRecord = record({
  format: constant(CELLS_FORMAT),
  rows: list(
    record({
      model: choice(catalogue.map((m) => m.id)),
      cells: list(cellRecord, MAX_SNAPSHOTS, { least: 1, none: 'must hold one cell for every column.' }),
    }),
    2 * MAX_STAGES,
    { least: 1, none: 'holds no row.' },
  ),
})

/**
 * Reads a block that was copied as text, perhaps in another window.
 * @throws DocumentError naming the place and the reason
 */
export function readCells(text: string): CellBlock {
  const block = readWith(blockRecord, parsed(text))
  block.rows.forEach(({ model, cells }, r) =>
    cells.forEach((cell, c) => {
      checkOverride(cell, `rows[${r}].cells[${c}]`, model)
    }),
  )
  const columns = block.rows[0].cells.length
  const uneven = block.rows.findIndex((row) => row.cells.length !== columns)
  if (uneven >= 0) throw new DocumentError(`rows[${uneven}].cells`, 'is not as wide as the first row.')
  return block
}

function parsed(text: string): unknown {
  const none = new DocumentError('', 'What was copied last is no block of cells.')
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch {
    throw none
  }
  if (typeof value !== 'object' || value === null || (value as { format?: unknown }).format !== CELLS_FORMAT) throw none
  return value
}

/**
 * Where the rows of a block go from a stage on down: each to the next stage of the same model; null where there is none.
 * @throws RangeError when none of them finds a place
 */
export function pastePlaces(preset: Preset, block: CellBlock, stage: string): (StageNode | null)[] {
  const parts = partsOf(preset.chain)
  let next = Math.max(
    0,
    parts.findIndex((p) => p.id === stage),
  )
  const places = block.rows.map(({ model }) => {
    const found = parts.findIndex((p, i) => i >= next && p.model === model)
    if (found < 0) return null
    next = found + 1
    return parts[found]
  })
  if (places.every((p) => p === null)) {
    const names = [...new Set(block.rows.map((row) => modelOf(row.model).name))]
    throw new RangeError(`From this row on there is no ${names.slice(0, 3).join(', no ')} that could take what was copied.`)
  }
  return places
}
