import { useSortable } from '@dnd-kit/sortable'
import { memo, type KeyboardEvent } from 'react'
import type { Snapshot } from '@fulgor/core/preset'
import { edit } from '../../state/actions'
import { snapshotChosen } from '../../state/editor'
import { useAppDispatch } from '../../state/store'
import { ActionsMenu } from '../../ui/ActionsMenu'
import { ArrowMark } from '../../ui/marks'
import { snapshotActions } from './sheetActions'

interface Props {
  snapshot: Snapshot
  index: number
  lit: boolean
  /** Values that change when the player switches here from the lit snapshot; null on the lit one. */
  changes: number | null
}

/** A snapshot's column head: choose, drag, and a menu of what can be done with it. */
export const SnapshotHead = memo(function SnapshotHead({ snapshot, index, lit, changes }: Props) {
  const dispatch = useAppDispatch()
  const { attributes, listeners, setNodeRef, transform, isDragging } = useSortable({ id: snapshot.id })
  const move = (step: number) => dispatch(edit({ type: 'moveSnapshot', snapshot: snapshot.id, index: index + step }))
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.altKey && (event.key === 'ArrowLeft' || event.key === 'ArrowRight')) {
      event.preventDefault()
      move(event.key === 'ArrowLeft' ? -1 : 1)
    }
  }
  return (
    <div
      role="columnheader"
      ref={setNodeRef}
      data-snapshot={snapshot.id}
      onKeyDown={onKeyDown}
      style={transform ? { transform: `translateX(${transform.x}px)` } : undefined}
      className={`group relative border-t-[3px] border-l border-l-rule ${lit ? 'border-t-ember bg-lit' : 'border-t-transparent max-[700px]:hidden'} ${isDragging ? 'z-30 bg-deep' : ''}`}
    >
      <button
        type="button"
        {...attributes}
        {...listeners}
        role={undefined}
        aria-pressed={lit}
        aria-roledescription="draggable snapshot"
        data-cell={`-1,${index + 1}`}
        tabIndex={lit ? 0 : -1}
        title={snapshot.name}
        onClick={() => dispatch(snapshotChosen(snapshot.id))}
        onKeyDown={onKeyDown}
        className="block h-full w-full pt-1.5 pr-1 pl-2 text-left"
      >
        <span className={`num flex items-center gap-1.5 text-axis leading-3 ${lit ? 'font-bold text-ember' : 'text-ink3'}`}>
          {index + 1}
          {changes !== null && (
            <span
              className="flex items-center gap-0.5"
              data-changes={changes}
              title={`${changes} ${changes === 1 ? 'value changes' : 'values change'} at the switch from the lit snapshot`}
            >
              <ArrowMark />
              {changes}
            </span>
          )}
        </span>
        <span
          className={`line-clamp-2 text-[12px] leading-[13.5px] break-words [font-stretch:90%] ${lit ? 'font-bold text-ink' : 'font-semibold text-ink2'}`}
        >
          {snapshot.name}
        </span>
      </button>
      <ActionsMenu
        actions={dispatch(snapshotActions(snapshot.id))}
        label={`Actions for snapshot ${snapshot.name}`}
        className="absolute top-0 right-0 grid size-6 place-items-center text-ink3 hover:text-ink"
      />
    </div>
  )
})
