import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core'
import { horizontalListSortingStrategy, SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { useMemo, useState, type ClipboardEvent, type CSSProperties, type KeyboardEvent, type PointerEvent } from 'react'
import { Link } from 'react-router'
import { cellChanges, snapshotDifference, type Preset } from '@fulgor/core/preset'
import { addSnapshot, edit, presentPreset } from '../../state/actions'
import { between, copy, paste, rangeChosen, rangeEdits, type Cell } from '../../state/cells'
import { reachChosen, snapshotChosen } from '../../state/editor'
import { removeStages } from '../../state/stageBlocks'
import { useAppDispatch, useAppSelector } from '../../state/store'
import type { Action } from '../../ui/actionList'
import { Explain } from '../../ui/Explain'
import { PointerMenu } from '../../ui/PointerMenu'
import { AddStageDialog } from './AddStageDialog'
import { focusFirstParam } from './FocusPanel'
import { focusChosen } from './focusRow'
import { LoudnessFooter } from './LoudnessFooter'
import { RangeBar } from './RangeBar'
import { SnapshotHead } from './SnapshotHead'
import { cellActions, snapshotActions, stageActions } from './sheetActions'
import { dropRow, LANE_DRAG } from './routing'
import { gutterWidth, sheetRows } from './rows'
import { JoinRow, StageRow } from './StageRow'
import { TraceScale } from './EmberTrace'

type Step = readonly [rows: number, columns: number]

const stepOf = (key: string): Step | undefined =>
  (({ ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }) as const)[key]

const cellOf = (target: EventTarget): HTMLElement | null => (target as HTMLElement).closest<HTMLElement>('[data-cell]')
const placeOf = (cell: HTMLElement): readonly [row: number, column: number] => {
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

export function Matrix() {
  const preset = useAppSelector(presentPreset)
  const lit = useAppSelector((s) => s.editor.snapshot)
  const id = useAppSelector((s) => s.editor.id)
  const dispatch = useAppDispatch()
  const [adding, setAdding] = useState(false)
  const [differing, setDiffering] = useState(false)
  const chosen = useAppSelector((s) => s.editor.stage)
  const column = useAppSelector((s) => s.editor.column)
  const range = useAppSelector((s) => s.cells.range)
  const picked = useMemo(() => (preset ? between(preset, range) : null), [preset, range])
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  if (!preset) return null
  const rows = sheetRows(preset.chain)
  const deepest = Math.max(0, ...rows.map((row) => row.depth))
  const stages = rows.filter((row) => row.kind === 'stage').length
  const shown = rows.map(
    ({ stage }) => !differing || (stage !== null && preset.snapshots.some((s) => cellChanges(preset, stage, s.id).length > 0)),
  )
  /** How many rows in a row are left out from here on. */
  const leftOut = (from: number) => {
    const next = shown.indexOf(true, from)
    return (next < 0 ? rows.length : next) - from
  }

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

  const onDragEnd = ({ active, over, delta }: DragEndEvent) => {
    if (!over) return
    const id = String(active.id)
    if (rows.some((row) => row.id === id)) {
      const together = picked?.snapshots.length === 0 && picked.stages.includes(id) ? picked.stages : [id]
      if (active.id !== over.id || Math.abs(delta.x) > LANE_DRAG) dispatch(dropRow(id, String(over.id), delta.x, together))
      return
    }
    const snapshot = preset.snapshots.findIndex((s) => s.id === over.id)
    if (snapshot >= 0) dispatch(edit({ type: 'moveSnapshot', snapshot: String(active.id), index: snapshot }))
  }
  const actionsAt = (target: HTMLElement): readonly Action[] => {
    const head = target.closest<HTMLElement>('[data-snapshot]')?.dataset.snapshot
    if (head) return dispatch(snapshotActions(head))
    const stage = target.closest<HTMLElement>('[data-stage]')?.dataset.stage
    if (!stage) return []
    const cell = cellOf(target)
    const at = cell && cellAt(placeOf(cell))
    const type = () => cell?.dispatchEvent(new MouseEvent('dblclick', { bubbles: true }))
    return dispatch(at?.snapshot ? cellActions(stage, at.snapshot, type) : stageActions(stage))
  }
  const add = () => {
    const id = dispatch(addSnapshot(null))
    if (id) dispatch(snapshotChosen(id))
  }

  return (
    <PointerMenu actionsAt={actionsAt}>
      <section
        aria-label="Sheet"
        className="sheet relative min-h-0 min-w-0 overflow-auto"
        onKeyDownCapture={onKeyDown}
        onPointerDownCapture={onPointerDown}
        onPointerOver={onPointerOver}
        onCopy={onCopy}
        onCut={onCut}
        onPaste={onPaste}
      >
        <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
          <div
            className="flex min-h-full min-w-max flex-col max-[700px]:min-w-0"
            style={
              {
                '--snapshots': preset.snapshots.length,
                // lanes need room in the gutter
                ...(deepest > 0 ? { '--gutter-w': `${40 + gutterWidth(deepest)}px` } : {}),
              } as CSSProperties
            }
          >
            <SnapshotSwitch preset={preset} lit={lit} onAdd={add} />
            <div role="grid" aria-label="Stages and snapshots" className="contents">
              <div
                role="row"
                className="sticky top-0 z-20 grid h-[var(--sheet-head-h)] flex-none grid-rows-[minmax(0,1fr)] sheet-columns border-b border-ink bg-paper"
              >
                <div role="columnheader" className="sticky left-0 z-10 col-span-2 bg-paper pt-[9px] pl-3.5">
                  <h1 className="text-title leading-[1.15]">
                    Sheet <Explain term="sheet" />
                  </h1>
                  {preset.snapshots.length > 1 && (
                    <button
                      type="button"
                      className="act absolute top-1 right-2 text-label"
                      aria-pressed={differing}
                      title="Leaves out the rows that are as the base in every snapshot"
                      onClick={() => setDiffering(!differing)}
                    >
                      {differing ? 'Every row' : 'Only what differs'}
                    </button>
                  )}
                  <span className="eyebrow">
                    {stages} stages, {preset.snapshots.length} {preset.snapshots.length === 1 ? 'snapshot' : 'snapshots'} ·{' '}
                    <Link
                      className="underline underline-offset-2 hover:text-ember"
                      to={`/layers/${id}`}
                      title="Hear this preset together with others, as in a mix"
                    >
                      layers
                    </Link>
                  </span>
                  <BaseHead preset={preset} />
                </div>
                <div role="columnheader" className="sticky left-[calc(var(--gutter-w)+var(--stage-w))] z-10 bg-paper">
                  <TraceScale />
                  <Explain term="trace" className="absolute -top-0.5 right-0 max-[700px]:hidden" />
                </div>
                <SortableContext items={preset.snapshots.map((s) => s.id)} strategy={horizontalListSortingStrategy}>
                  {preset.snapshots.map((snapshot, i) => (
                    <SnapshotHead
                      key={snapshot.id}
                      snapshot={snapshot}
                      index={i}
                      lit={snapshot.id === lit}
                      changes={lit === snapshot.id ? null : snapshotDifference(preset, lit, snapshot.id).length}
                    />
                  ))}
                </SortableContext>
                <div role="columnheader" className="border-l border-rule pt-2 pl-2 max-[700px]:hidden">
                  {preset.snapshots.length === 8 && <span className="sr-only">Eight snapshots, no more</span>}
                  {preset.snapshots.length < 8 && (
                    <button type="button" className="act text-[12px]" onClick={add}>
                      Add snapshot
                    </button>
                  )}
                </div>
              </div>
              <SortableContext items={rows.map((row) => row.id)} strategy={verticalListSortingStrategy}>
                {rows.map((row, i) => {
                  if (!shown[i])
                    return (i === 0 || shown[i - 1]) && <LeftOut key={row.id} count={leftOut(i)} onShow={() => setDiffering(false)} />
                  if (!row.stage) return <JoinRow key={row.id} preset={preset} row={row} deepest={deepest} />
                  const inRange = picked?.stages.includes(row.id) ? picked.snapshots : null
                  return <StageRow key={row.id} preset={preset} row={row} stage={row.stage} index={i} deepest={deepest} picked={inRange} />
                })}
              </SortableContext>
            </div>
            <div className="sheet-columns grid min-h-10 flex-1">
              <div className="sticky left-0 z-10 col-span-2 bg-paper py-1.5 pl-[calc(var(--gutter-w)+6px)]">
                <button type="button" className="act" onClick={() => setAdding(true)}>
                  Add stage
                </button>
              </div>
              <div className="sticky left-[calc(var(--gutter-w)+var(--stage-w))] bg-paper" />
              {preset.snapshots.map((s) => (
                <div key={s.id} className={`border-l border-rule ${s.id === lit ? 'bg-lit' : 'max-[700px]:hidden'}`} />
              ))}
              <div className="border-l border-rule max-[700px]:hidden" />
            </div>
            {picked && <RangeBar preset={preset} picked={picked} />}
            <LoudnessFooter preset={preset} />
          </div>
        </DndContext>
        <AddStageDialog open={adding} onClose={() => setAdding(false)} />
      </section>
    </PointerMenu>
  )
}

/** Stands for rows that are alike in every snapshot while only the others are shown. */
const LeftOut = ({ count, onShow }: { count: number; onShow: () => void }) => (
  <div role="row" className="flex h-5 flex-none items-center border-b border-rule bg-deep">
    <div role="gridcell" className="sticky left-0 pl-[calc(var(--gutter-w)+6px)]">
      <button type="button" className="text-axis text-ink3 hover:text-ink" onClick={onShow}>
        {count} {count === 1 ? 'row' : 'rows'} as the base
      </button>
    </div>
  </div>
)

/** In a phone's width one snapshot is in view at a time: their numbers stand above the sheet. */
function SnapshotSwitch({ preset, lit, onAdd }: { preset: Preset; lit: string | null; onAdd: () => void }) {
  const dispatch = useAppDispatch()
  return (
    <div
      className="flex min-h-9 flex-none items-center gap-1 border-b border-rule px-3 min-[701px]:hidden"
      role="group"
      aria-label="Snapshots"
    >
      {preset.snapshots.map((snapshot, i) => (
        <button
          key={snapshot.id}
          type="button"
          aria-pressed={snapshot.id === lit}
          aria-label={`Snapshot ${i + 1}, ${snapshot.name}`}
          onClick={() => dispatch(snapshotChosen(snapshot.id))}
          className={`num min-h-8 min-w-8 border-b-2 ${snapshot.id === lit ? 'border-ember bg-lit font-bold text-ember' : 'border-transparent text-ink2'}`}
        >
          {i + 1}
        </button>
      ))}
      {preset.snapshots.length < 8 && (
        <button type="button" className="act ml-auto text-[12px]" onClick={onAdd}>
          Add snapshot
        </button>
      )}
    </div>
  )
}

/** The base's column: lit, edits reach all snapshots that share a value. */
function BaseHead({ preset }: { preset: Preset }) {
  const dispatch = useAppDispatch()
  const shared = useAppSelector((s) => s.editor.reach === 'shared')
  if (preset.snapshots.length === 1) return <span className="eyebrow absolute right-2 bottom-1">base</span>
  return (
    <button
      type="button"
      aria-pressed={shared}
      title="Base: what all snapshots share that have no value of their own. Chosen, edits reach all of them (E)"
      className={`absolute right-0 bottom-0 min-h-6 px-2 text-label ${shared ? 'border-b-[3px] border-ember font-bold text-ember' : 'text-ink3 hover:text-ink'}`}
      onClick={() => dispatch(reachChosen(shared ? 'own' : 'shared'))}
    >
      base
    </button>
  )
}
