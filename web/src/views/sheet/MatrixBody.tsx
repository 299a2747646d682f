import type { DragEndEvent } from '@dnd-kit/core'
import { horizontalListSortingStrategy, SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { memo, useImperativeHandle, useMemo, useState, type CSSProperties, type Ref } from 'react'
import { Link } from 'react-router'
import { cellChanges, snapshotDifference, type Preset } from '@fulgor/core/preset'
import { addSnapshot, edit, presentPreset } from '../../state/actions'
import { between } from '../../state/cells'
import { snapshotChosen } from '../../state/editor'
import { useAppDispatch, useAppSelector } from '../../state/store'
import type { Action } from '../../ui/actionList'
import { Explain } from '../../ui/Explain'
import { LoudnessFooter } from './LoudnessFooter'
import { RangeBar } from './RangeBar'
import { SnapshotHead } from './SnapshotHead'
import { cellActions, snapshotActions, stageActions } from './sheetActions'
import { dropRow, LANE_DRAG } from './routing'
import { gutterWidth, sheetRows } from './rows'
import { JoinRow } from './JoinRow'
import { cellOf, matrixHands, placeOf } from './matrixHands'
import { StageRow } from './StageRow'
import { TraceGrid, TraceScale } from './EmberTrace'
import { LeftOut, SnapshotSwitch, BaseHead } from './MatrixHeads'

/** The list of the drawing before while it says the same. */
function useSameList(list: readonly string[]): string[] {
  const text = list.join(' ')
  return useMemo(() => (text === '' ? [] : text.split(' ')), [text])
}

/** What a hand does on the sheet, as the preset stands. */
export interface Hands extends Omit<ReturnType<typeof matrixHands>, 'cellAt'> {
  readonly onDragEnd: (event: DragEndEvent) => void
  /** What can be done with the thing at this place. */
  readonly actionsAt: (target: HTMLElement) => readonly Action[]
}

interface Props {
  hands: Ref<Hands>
  onAddStage: () => void
}

/** All that is drawn of the preset: heads, rows, loudness. What stands around it need not be drawn again with every edit. */
export const MatrixBody = memo(function MatrixBody(props: Props) {
  const preset = useAppSelector(presentPreset)
  return preset && <Body preset={preset} {...props} />
})

function Body({ preset, hands, onAddStage }: Props & { preset: Preset }) {
  const lit = useAppSelector((s) => s.editor.snapshot)
  const id = useAppSelector((s) => s.editor.id)
  const dispatch = useAppDispatch()
  const [differing, setDiffering] = useState(false)
  const chosen = useAppSelector((s) => s.editor.stage)
  const column = useAppSelector((s) => s.editor.column)
  const range = useAppSelector((s) => s.cells.range)
  const picked = useMemo(() => between(preset, range), [preset, range])
  const rows = useMemo(() => sheetRows(preset.chain), [preset])
  const rowIds = useSameList(rows.map((row) => row.id))
  const columnIds = useSameList(preset.snapshots.map((s) => s.id))
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

  const { cellAt, ...handlers } = matrixHands({ preset, rows, shown, picked, range, chosen, column, dispatch })

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

  useImperativeHandle(hands, () => ({ ...handlers, onDragEnd, actionsAt }))

  return (
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
      <TraceGrid>
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
          <SortableContext items={columnIds} strategy={horizontalListSortingStrategy}>
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
        <SortableContext items={rowIds} strategy={verticalListSortingStrategy}>
          {rows.map((row, i) => {
            if (!shown[i])
              return (i === 0 || shown[i - 1]) && <LeftOut key={row.id} count={leftOut(i)} onShow={() => setDiffering(false)} />
            if (!row.stage) return <JoinRow key={row.id} preset={preset} row={row} deepest={deepest} />
            const inRange = picked?.stages.includes(row.id) ? picked.snapshots : null
            return <StageRow key={row.id} preset={preset} row={row} stage={row.stage} index={i} deepest={deepest} picked={inRange} />
          })}
        </SortableContext>
      </TraceGrid>
      <div className="sheet-columns grid min-h-10 flex-1">
        <div className="sticky left-0 z-10 col-span-2 bg-paper py-1.5 pl-[calc(var(--gutter-w)+6px)]">
          <button type="button" className="act" onClick={onAddStage}>
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
  )
}
