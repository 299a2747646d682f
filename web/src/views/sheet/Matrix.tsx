import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core'
import { horizontalListSortingStrategy, SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { useState, type CSSProperties, type KeyboardEvent } from 'react'
import type { Preset } from '@fulgor/core/preset'
import { addSnapshot, edit, presentPreset } from '../../state/actions'
import { snapshotChosen } from '../../state/editor'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { AddStageDialog } from './AddStageDialog'
import { LoudnessFooter } from './LoudnessFooter'
import { SnapshotHead } from './SnapshotHead'
import { dropRow, LANE_DRAG } from './routing'
import { gutterWidth, sheetRows } from './rows'
import { JoinRow, StageRow } from './StageRow'
import { TraceScale } from './EmberTrace'

/** Arrow keys move between the cells of the matrix; `data-cell` is "row,column". */
function moveFocus(event: KeyboardEvent<HTMLElement>): void {
  const step = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[event.key]
  const cell = (event.target as HTMLElement).closest<HTMLElement>('[data-cell]')
  if (!step || !cell || event.altKey || event.ctrlKey || event.metaKey) return
  const [row, column] = (cell.dataset.cell ?? '').split(',').map(Number)
  const at = (r: number) => event.currentTarget.querySelector<HTMLElement>(`[data-cell="${r},${column + step[1]}"]`)
  // a sum between lanes and what follows has no cells
  const next = at(row + step[0]) ?? (step[0] === 0 ? null : at(row + 2 * step[0]))
  if (!next) return
  event.preventDefault()
  next.focus()
}

export function Matrix() {
  const preset = useAppSelector(presentPreset)
  const lit = useAppSelector((s) => s.editor.snapshot)
  const dispatch = useAppDispatch()
  const [adding, setAdding] = useState(false)
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  if (!preset) return null
  const rows = sheetRows(preset.chain)
  const deepest = Math.max(0, ...rows.map((row) => row.depth))
  const stages = rows.filter((row) => row.kind === 'stage').length

  const onDragEnd = ({ active, over, delta }: DragEndEvent) => {
    if (!over) return
    const id = String(active.id)
    if (rows.some((row) => row.id === id)) {
      if (active.id !== over.id || Math.abs(delta.x) > LANE_DRAG) dispatch(dropRow(id, String(over.id), delta.x))
      return
    }
    const snapshot = preset.snapshots.findIndex((s) => s.id === over.id)
    if (snapshot >= 0) dispatch(edit({ type: 'moveSnapshot', snapshot: String(active.id), index: snapshot }))
  }
  const add = () => {
    const id = dispatch(addSnapshot(null))
    if (id) dispatch(snapshotChosen(id))
  }

  return (
    <section aria-label="Sheet" className="sheet relative min-h-0 min-w-0 overflow-auto" onKeyDown={moveFocus}>
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
        <div
          className="flex min-h-full min-w-max flex-col max-[700px]:min-w-0"
          role="grid"
          aria-label="Stages and snapshots"
          style={
            {
              '--snapshots': preset.snapshots.length,
              // lanes need room in the gutter
              ...(deepest > 0 ? { '--gutter-w': `${40 + gutterWidth(deepest)}px` } : {}),
            } as CSSProperties
          }
        >
          <SnapshotSwitch preset={preset} lit={lit} onAdd={add} />
          <div
            role="row"
            className="sticky top-0 z-20 grid h-[var(--sheet-head-h)] flex-none grid-rows-[minmax(0,1fr)] sheet-columns border-b border-ink bg-paper"
          >
            <div role="columnheader" className="sticky left-0 z-10 col-span-2 bg-paper pt-[9px] pl-3.5">
              <h1 className="text-title leading-[1.15]">Sheet</h1>
              <span className="eyebrow">
                {stages} stages, {preset.snapshots.length} {preset.snapshots.length === 1 ? 'snapshot' : 'snapshots'}
              </span>
              <span className="eyebrow absolute right-2 bottom-1">base</span>
            </div>
            <div role="columnheader" className="sticky left-[calc(var(--gutter-w)+var(--stage-w))] z-10 bg-paper">
              <TraceScale />
            </div>
            <SortableContext items={preset.snapshots.map((s) => s.id)} strategy={horizontalListSortingStrategy}>
              {preset.snapshots.map((snapshot, i) => (
                <SnapshotHead key={snapshot.id} snapshot={snapshot} index={i} lit={snapshot.id === lit} count={preset.snapshots.length} />
              ))}
            </SortableContext>
            <div className="border-l border-rule pt-2 pl-2 max-[700px]:hidden">
              {preset.snapshots.length < 8 && (
                <button type="button" className="act text-[12px]" onClick={add}>
                  Add snapshot
                </button>
              )}
            </div>
          </div>
          <SortableContext items={rows.map((row) => row.id)} strategy={verticalListSortingStrategy}>
            {rows.map((row, i) =>
              row.stage ? (
                <StageRow key={row.id} preset={preset} row={row} stage={row.stage} index={i} deepest={deepest} />
              ) : (
                <JoinRow key={row.id} preset={preset} row={row} deepest={deepest} />
              ),
            )}
          </SortableContext>
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
          <LoudnessFooter preset={preset} />
        </div>
      </DndContext>
      <AddStageDialog open={adding} onClose={() => setAdding(false)} />
    </section>
  )
}

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
