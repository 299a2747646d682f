import { findModel, modelOf } from '@fulgor/core/catalogue'
import { flag, object, PresetError, readValues } from './fields'
import { MAX_SNAPSHOTS, MAX_STAGES, partsOf, type Preset, type StageNode } from './preset'
import { readBench } from './readBench'
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

/**
 * Reads a block that was copied as text, perhaps in another window.
 * @throws PresetError naming the place and the reason
 */
export function readCells(text: string): CellBlock {
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch {
    throw new PresetError('', 'What was copied last is no block of cells.')
  }
  const block = object(value, 'cells')
  if (block.format !== CELLS_FORMAT || !Array.isArray(block.rows)) throw new PresetError('', 'What was copied last is no block of cells.')
  if (block.rows.length === 0 || block.rows.length > 2 * MAX_STAGES) throw new PresetError('rows', 'holds no row or too many.')
  const rows = block.rows.map((raw: unknown, r) => {
    const row = object(raw, `rows[${r}]`)
    const model = typeof row.model === 'string' ? findModel(row.model) : undefined
    if (!model) throw new PresetError(`rows[${r}].model`, `there is no stage model “${String(row.model)}”.`)
    if (!Array.isArray(row.cells) || row.cells.length === 0 || row.cells.length > MAX_SNAPSHOTS)
      throw new PresetError(`rows[${r}].cells`, 'must hold one cell for every column.')
    const cells = row.cells.map((rawCell: unknown, c) => {
      const path = `rows[${r}].cells[${c}]`
      const cell = object(rawCell, path)
      const bench = model.id === 'cabinet' && cell.bench !== undefined ? { bench: readBench(cell.bench, `${path}.bench`) } : {}
      return { on: flag(cell.on, `${path}.on`), params: readValues(cell.params, `${path}.params`, model.params, model.id), ...bench }
    })
    return { model: model.id, cells }
  })
  const columns = rows[0].cells.length
  const uneven = rows.findIndex((row) => row.cells.length !== columns)
  if (uneven >= 0) throw new PresetError(`rows[${uneven}].cells`, 'is not as wide as the first row.')
  return { format: CELLS_FORMAT, rows }
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
