import { DocumentError } from '@fulgor/core/document'
import { modelOf } from '@fulgor/core/catalogue'
import {
  copyCells,
  copyStages,
  isStageBlock,
  partsOf,
  pastePlaces,
  readCells,
  readStages,
  type CellBlock,
  type Edit,
  type Preset,
  type StageBlock,
} from '@fulgor/core/preset'
import { edit, presentPreset } from './actions'
import { copied, type Range } from './cellsSlice'
import { pasteStages } from './stageBlocks'
import { notified } from './notices'
import type { RootState, Thunk } from './store'

/** Stages and snapshots, each in the order of the sheet; no snapshot: whole rows. */
export interface Picked {
  readonly stages: readonly string[]
  readonly snapshots: readonly string[]
}

/** What lies between two corners; null when one of them is no longer there. */
export function between(preset: Preset, range: Range | null): Picked | null {
  if (!range) return null
  const stretch = (ids: readonly string[], a: string, b: string) => {
    const [from, to] = [ids.indexOf(a), ids.indexOf(b)].sort((x, y) => x - y)
    return from < 0 ? null : ids.slice(from, to + 1)
  }
  const stages = stretch(
    partsOf(preset.chain).map((s) => s.id),
    range.from.stage,
    range.to.stage,
  )
  const { from, to } = range
  const columns = preset.snapshots.map((s) => s.id)
  const snapshots = from.snapshot === null || to.snapshot === null ? [] : stretch(columns, from.snapshot, to.snapshot)
  return stages && snapshots ? { stages, snapshots } : null
}

/** The range, or else the cell or the row that has the focus. */
export function picked(state: RootState): Picked | null {
  const preset = presentPreset(state)
  if (!preset) return null
  const range = between(preset, state.cells.range)
  if (range) return range
  const { stage, snapshot, column } = state.editor
  if (stage === null) return null
  return { stages: [stage], snapshots: column === 'snapshot' && snapshot !== null ? [snapshot] : [] }
}

/** Copies what is selected, or these stages and snapshots; whole rows as stages. @returns the text for the system's clipboard */
export const copy =
  (what?: Picked): Thunk<string | null> =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    const chosen = what ?? picked(getState())
    if (!preset || !chosen) return null
    const { stages, snapshots } = chosen
    const block = snapshots.length === 0 ? copyStages(preset, stages) : copyCells(preset, stages, snapshots)
    dispatch(copied(block))
    return JSON.stringify(block)
  }

/** What the system's clipboard holds, as one of our blocks. @throws DocumentError */
function readBlock(text: string): CellBlock | StageBlock {
  let value: unknown = null
  try {
    value = JSON.parse(text)
  } catch {
    // told by the reader of cells
  }
  return isStageBlock(value) ? readStages(value) : readCells(text)
}

/** Stages as a column of cells with their base values, for a paste onto snapshots. */
const asCells = (block: StageBlock): CellBlock => ({
  format: 'fulgor.cells',
  rows: partsOf(block.nodes).map(({ model, on, params, bench }) => ({ model, cells: [{ on, params, ...(bench ? { bench } : {}) }] })),
})

/**
 * Pastes what was copied last: stages behind the chosen row, cells onto the selection from its first row on down.
 * @param text what the system's clipboard holds, if it is asked
 * @param onto these snapshots from the top row on, instead of the selection
 */
export const paste =
  (text: string | null, onto?: readonly string[]): Thunk =>
  (dispatch, getState) => {
    const state = getState()
    const chosen = picked(state)
    if (!presentPreset(state) || !chosen) return
    const warn = (words: string) => dispatch(notified({ kind: 'warning', text: words }))
    try {
      const block = text === null ? state.cells.block : readBlock(text)
      const targets = onto ?? chosen.snapshots
      if (!block) warn('Nothing was copied yet.')
      else if ('nodes' in block && targets.length === 0) dispatch(pasteStages(block))
      else if (targets.length === 0) warn('Paste goes onto snapshots: choose a cell of one, not the row.')
      else dispatch(pasteBlock('nodes' in block ? asCells(block) : block, onto ? null : chosen.stages[0], targets))
    } catch (error) {
      if (!(error instanceof RangeError) && !(error instanceof DocumentError)) throw error
      warn(error.message)
    }
  }

/** @param from null is the first row */
const pasteBlock =
  (block: CellBlock, from: string | null, targets: readonly string[]): Thunk =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    if (!preset) return
    const stage = from ?? partsOf(preset.chain)[0].id
    const width = block.rows[0].cells.length
    const first = preset.snapshots.findIndex((s) => s.id === targets[0])
    // one cell chosen takes the whole width of what was copied
    const snapshots = targets.length === 1 ? preset.snapshots.slice(first, first + width).map((s) => s.id) : targets
    const missed = pastePlaces(preset, block, stage).flatMap((place, r) => (place ? [] : [modelOf(block.rows[r].model).name]))
    dispatch(edit({ type: 'pasteCells', block, stage, snapshots }))
    if (missed.length > 0)
      dispatch(notified({ kind: 'note', text: `Pasted; there was no place below for ${[...new Set(missed)].join(', ')}.` }))
  }

/** What can be done to a range, each as one step of undo. */
export const rangeEdits = {
  fill: ({ stages, snapshots }: Picked): Edit => ({ type: 'fillCells', stages, from: snapshots[0], to: snapshots.slice(1) }),
  swap: ({ stages, snapshots }: Picked): Edit => ({ type: 'swapCells', stages, a: snapshots[0], b: snapshots[1] }),
  reset: ({ stages, snapshots }: Picked): Edit => ({
    type: 'all',
    edits: stages.flatMap((stage) => snapshots.map((snapshot) => ({ type: 'resetCell', stage, snapshot }) as const)),
  }),
  toBase: ({ stages, snapshots }: Picked): Edit => ({
    type: 'all',
    edits: stages.map((stage) => ({ type: 'cellToBase', stage, snapshot: snapshots[0] }) as const),
  }),
}
