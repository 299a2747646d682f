import { useSortable } from '@dnd-kit/sortable'
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import type { KeyboardEvent } from 'react'
import { partsOf, type Snapshot } from '@fulgor/core/preset'
import { addSnapshot, edit, presentPreset } from '../../state/actions'
import { panelChosen, snapshotChosen } from '../../state/editor'
import { copy, paste } from '../../state/cells'
import { levelSnapshots } from '../../state/levelling'
import { useAppDispatch, type Thunk } from '../../state/store'
import { ArrowMark, Chevron } from '../../ui/marks'

interface Props {
  snapshot: Snapshot
  index: number
  lit: boolean
  count: number
  /** Values that change when the player switches here from the lit snapshot; null on the lit one. */
  changes: number | null
}

const copySnapshot =
  (id: string): Thunk<string | null> =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    return preset ? dispatch(copy({ stages: partsOf(preset.chain).map((s) => s.id), snapshots: [id] })) : null
  }

/** A snapshot's column head: choose, drag, and a menu of what can be done with it. */
export function SnapshotHead({ snapshot, index, lit, count, changes }: Props) {
  const dispatch = useAppDispatch()
  const { attributes, listeners, setNodeRef, transform, isDragging } = useSortable({ id: snapshot.id })
  const move = (step: number) => dispatch(edit({ type: 'moveSnapshot', snapshot: snapshot.id, index: index + step }))
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.altKey && (event.key === 'ArrowLeft' || event.key === 'ArrowRight')) {
      event.preventDefault()
      move(event.key === 'ArrowLeft' ? -1 : 1)
    }
  }
  const actions: readonly (readonly [label: string, key: string, act: () => void, off?: boolean])[] = [
    ['Rename, see its spectrum', '', () => { dispatch(snapshotChosen(snapshot.id)); dispatch(panelChosen('snapshot')) }],
    ['Duplicate', '', () => { const id = dispatch(addSnapshot(snapshot.id)); if (id) dispatch(snapshotChosen(id)) }, count >= 8],
    ['Level this one', '', () => dispatch(levelSnapshots(snapshot.id))],
    ['Copy its values', '', () => { const text = dispatch(copySnapshot(snapshot.id)); if (text) void navigator.clipboard.writeText(text).catch(() => undefined) }],
    ['Paste values onto it', '', () => dispatch(paste(null, [snapshot.id]))],
    ['Take the base', '', () => dispatch(edit({ type: 'baseToSnapshot', snapshot: snapshot.id }))],
    ['Make this the base', '', () => dispatch(edit({ type: 'snapshotToBase', snapshot: snapshot.id }))],
    ['Move left', 'Alt ←', () => move(-1), index === 0],
    ['Move right', 'Alt →', () => move(1), index === count - 1],
    ['Remove', '', () => dispatch(edit({ type: 'removeSnapshot', snapshot: snapshot.id })), count === 1],
  ] // prettier-ignore
  return (
    <div
      role="columnheader"
      ref={setNodeRef}
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
      <Menu>
        <MenuButton
          aria-label={`Actions for snapshot ${snapshot.name}`}
          className="absolute top-0 right-0 grid size-6 place-items-center text-ink3 hover:text-ink"
        >
          <Chevron />
        </MenuButton>
        <MenuItems modal={false} anchor="bottom end" className="menu">
          {actions.map(([label, key, act, off]) => (
            <MenuItem key={label} disabled={off ?? false}>
              <button type="button" className="menu-item" onClick={act}>
                {label}
                {key && <kbd>{key}</kbd>}
              </button>
            </MenuItem>
          ))}
        </MenuItems>
      </Menu>
    </div>
  )
}
