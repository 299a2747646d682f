import { useSortable } from '@dnd-kit/sortable'
import { memo, useState } from 'react'
import { MAX_LANES, type Preset } from '@fulgor/core/preset'
import { edit, newId } from '../../state/actions'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { TraceCell } from './EmberTrace'
import { matchLanes } from './routing'
import { gutterWidth, sameCells, sameLine, type SheetRow } from './rows'

interface Props {
  readonly preset: Preset
  readonly row: SheetRow
  readonly deepest: number
}

/** Where lanes come together: the sum's trace, and what can be done with all of them. */
export const JoinRow = memo(function JoinRow({ preset, row, deepest }: Props) {
  const dispatch = useAppDispatch()
  const lit = useAppSelector((s) => s.editor.snapshot)
  const { setNodeRef } = useSortable({ id: row.id, disabled: { draggable: true } })
  const [matching, setMatching] = useState(false)
  const { split } = row
  if (!split) return null
  const match = async () => {
    setMatching(true)
    await dispatch(matchLanes(split.id))
    setMatching(false)
  }
  return (
    <div
      role="row"
      ref={setNodeRef}
      className="sheet-columns relative grid h-[var(--row-h)] flex-none grid-rows-[minmax(0,1fr)] border-b border-rule"
    >
      <div role="gridcell" className="sticky left-0 z-10 flex items-center bg-paper pl-[36px] text-ink3">
        <Gutter row={row} on deepest={deepest} />
      </div>
      <div role="gridcell" className="sticky left-[var(--gutter-w)] z-10 min-w-0 bg-paper pt-[3px] pl-1.5">
        <span className="block truncate text-label leading-[14px] text-ink2">Sum of {split.lanes.length} lanes</span>
        <span className="flex gap-2.5 text-[11.5px]">
          <button
            type="button"
            className="act"
            disabled={matching}
            onClick={() => void match()}
            title="Sets the lanes’ levels by measured loudness"
          >
            {matching ? 'Measuring …' : 'Match the sides'}
          </button>
          <button
            type="button"
            className="act"
            disabled={split.lanes.length >= MAX_LANES}
            onClick={() => dispatch(edit({ type: 'addLane', split: split.id, lane: newId() }))}
          >
            Add lane
          </button>
        </span>
      </div>
      <TraceCell row={row} name={`the sum of ${split.lanes.length} lanes`} />
      {preset.snapshots.map((s) => (
        <div key={s.id} role="gridcell" className={`border-l border-rule ${s.id === lit ? 'bg-lit' : 'max-[700px]:hidden'}`} />
      ))}
      <div className="border-l border-rule max-[700px]:hidden" />
    </div>
  )
}, sameJoin)

function sameJoin(a: Props, b: Props): boolean {
  return a.deepest === b.deepest && sameLine(a.row, b.row) && sameCells(a.preset, b.preset, b.row.id)
}

/** The signal's line with a node at each stage; lanes leave it and come back. */
export function Gutter({ row, on, deepest }: { row: SheetRow; on: boolean; deepest: number }) {
  const width = gutterWidth(deepest)
  return (
    <svg
      width={width}
      height="100%"
      viewBox={`0 0 ${width} 40`}
      preserveAspectRatio="none"
      className={`h-full flex-none ${row.depth > 0 ? 'text-lane' : 'text-ink'}`}
      aria-hidden="true"
    >
      <path d={row.path} fill="none" stroke="currentColor" strokeWidth="1.5" />
      {row.kind === 'join' ? (
        <path d={`M${row.node} 16l4 4-4 4-4-4z`} fill="var(--paper)" stroke="currentColor" strokeWidth="1.3" />
      ) : row.kind === 'lane' ? (
        <path d={`M${row.node - 3.5} 20h7`} stroke="currentColor" strokeWidth="2.4" opacity={on ? 1 : 0.35} />
      ) : (
        <circle cx={row.node} cy="20" r="4" fill={on ? 'currentColor' : 'var(--paper)'} stroke="currentColor" strokeWidth="1.4" />
      )}
    </svg>
  )
}
