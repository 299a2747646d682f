import type { ClipboardEvent, KeyboardEvent, PointerEvent } from 'react'
import type { Preset } from '@fulgor/core/preset'
import { edit } from '../../state/actions'
import { copy, paste, rangeEdits, type Picked } from '../../state/cells'
import { rangeChosen, type Cell, type Range } from '../../state/cellsSlice'
import { removeStages } from '../../state/stageBlocks'
import type { AppDispatch } from '../../state/store'
import { focusFirstParam } from './FocusPanel'
import { focusChosen } from './focusRow'
import type { SheetRow } from './rows'

type Step = readonly [rows: number, columns: number]

const stepOf = (key: string): Step | undefined =>
  (({ ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }) as const)[key]

export const cellOf = (target: EventTarget): HTMLElement | null => (target as HTMLElement).closest<HTMLElement>('[data-cell]')

export const placeOf = (cell: HTMLElement): readonly [row: number, column: number] => {
  const [row, column] = (cell.dataset.cell ?? '').split(',').map(Number)
  return [row, column]
}

/** Arrow keys move between the cells of the matrix; `data-cell` is "row,column". Rows without cells are stepped over. */
function moveFocus(event: KeyboardEvent<HTMLElement>, rows: number): void {
  const step = stepOf(event.key)
  const cell = cellOf(event.target)
  if (!step || !cell || event.altKey || event.ctrlKey || event.metaKey) return
  const [row, column] = placeOf(cell)
  const at = (r: number) => event.currentTarget.querySelector<HTMLElement>(`[data-cell="${r},${column + step[1]}"]`)
  let next: HTMLElement | null = null
  for (let r = row + step[0]; !next && r >= -1 && r < rows; r += step[0]) {
    next = at(r)
    if (step[0] === 0) break
  }
  if (!next) return
  event.preventDefault()
  next.focus()
}

interface Matrix {
  readonly preset: Preset
  readonly rows: readonly SheetRow[]
  /** By row: whether it is to be seen. */
  readonly shown: readonly boolean[]
  readonly range: Range | null
  /** What the range holds. */
  readonly picked: Picked | null
  readonly chosen: string | null
  readonly column: string
  readonly dispatch: AppDispatch
}

/** What keys, pointer and clipboard do on the sheet: the focus walks, a range is stretched, filled, emptied, copied and moved. */
export function matrixHands({ preset, rows, shown, range, picked, chosen, column, dispatch }: Matrix) {
  const cellAt = ([row, column]: readonly [number, number]): Cell | null =>
    rows[row]?.stage ? { stage: rows[row].id, snapshot: column === 0 ? null : preset.snapshots[column - 1].id } : null
  const extend = (from: Cell | null, to: Cell | null) => {
    if (from && to) dispatch(rangeChosen({ from, to }))
  }
  /** Shift and an arrow: the far corner moves, the cell that has the focus stays. */
  const stretch = (event: KeyboardEvent<HTMLElement>): boolean => {
    const step = stepOf(event.key)
    const cell = cellOf(event.target)
    const from = cell && cellAt(placeOf(cell))
    if (!step || !from || !event.shiftKey || event.altKey || event.ctrlKey || event.metaKey) return false
    event.preventDefault()
    const head = range?.to ?? from
    let row = rows.findIndex((r) => r.id === head.stage) + step[0]
    while (rows[row] && (rows[row].stage === null || !shown[row])) row += step[0]
    const whole = head.snapshot === null
    const column = whole ? 0 : Math.max(1, preset.snapshots.findIndex((s) => s.id === head.snapshot) + step[1] + 1)
    if (column <= preset.snapshots.length && !(whole && step[0] === 0)) extend(range?.from ?? from, cellAt([row, column]))
    return true
  }
  const onKeyDown = (event: KeyboardEvent<HTMLElement>) => {
    if (stretch(event)) return
    if (picked && cellOf(event.target)) {
      const whole = picked.snapshots.length === 0
      const act = {
        Escape: () => dispatch(rangeChosen(null)),
        Delete: () => {
          dispatch(whole ? removeStages(picked.stages) : edit(rangeEdits.reset(picked)))
          if (whole) dispatch(focusChosen())
        },
        Enter: () => (event.ctrlKey || event.metaKey) && picked.snapshots.length > 1 && dispatch(edit(rangeEdits.fill(picked))),
      }[event.key]
      if (act) {
        event.preventDefault()
        event.stopPropagation()
        act()
        return
      }
      if (stepOf(event.key) && !event.altKey) dispatch(rangeChosen(null))
    }
    // the values of a row come next after it
    const plainTab = event.key === 'Tab' && !event.shiftKey && (event.target as HTMLElement).matches('[data-stage] [data-cell]')
    if (plainTab && focusFirstParam()) event.preventDefault()
    moveFocus(event, rows.length)
  }
  const onPointerDown = (event: PointerEvent<HTMLElement>) => {
    const cell = event.button === 0 ? cellOf(event.target) : null
    if (!cell) return
    const to = cellAt(placeOf(cell))
    const active = document.activeElement && cellOf(document.activeElement)
    const from = active && cellAt(placeOf(active))
    if (event.shiftKey && from && to) {
      event.preventDefault()
      extend(from, to)
    } else dispatch(rangeChosen(null))
  }
  const onPointerOver = (event: PointerEvent<HTMLElement>) => {
    if (event.buttons !== 1 || event.pointerType !== 'mouse') return
    const cell = cellOf(event.target)
    const active = document.activeElement && cellOf(document.activeElement)
    if (!cell || !active || (cell === active && !range) || !active.matches('[role=gridcell]')) return
    extend(cellAt(placeOf(active)), cellAt(placeOf(cell)))
  }
  const onCopy = (event: ClipboardEvent<HTMLElement>) => {
    if (!cellOf(event.target)) return
    const text = dispatch(copy())
    if (text === null) return
    event.clipboardData.setData('text/plain', text)
    event.preventDefault()
  }
  const onCut = (event: ClipboardEvent<HTMLElement>) => {
    const stages = picked && picked.snapshots.length === 0 ? picked.stages : column === 'name' && chosen ? [chosen] : null
    if (!stages || !cellOf(event.target)) return
    onCopy(event)
    dispatch(removeStages(stages))
    dispatch(focusChosen())
  }
  const onPaste = (event: ClipboardEvent<HTMLElement>) => {
    if (!cellOf(event.target)) return
    event.preventDefault()
    dispatch(paste(event.clipboardData.getData('text/plain')))
    dispatch(rangeChosen(null))
    if (column === 'name') dispatch(focusChosen())
  }

  return {
    cellAt,
    onKeyDownCapture: onKeyDown,
    onPointerDownCapture: onPointerDown,
    onPointerOver,
    onCopy,
    onCut,
    onPaste,
  }
}
