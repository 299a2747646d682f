import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import {
  capacityOf,
  CONTROL_KINDS,
  createControl,
  deviceOf,
  type Control,
  readyMoveEdit,
  readyMoves,
  runsItself,
  type ControlKind,
  type Preset,
  type ReadyMove,
} from '@fulgor/core/preset'
import { edit, newId } from '../../state/actions'
import { moveControl, positionIn } from '../../state/controls'
import { notified } from '../../state/notices'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { Chevron } from '../../ui/marks'
import { KIND_NAMES } from './words'

/** All sources with where they stand; moving one chooses it. */
export function SourceList({ preset, chosen, onChoose }: { preset: Preset; chosen: string | null; onChoose: (id: string) => void }) {
  const dispatch = useAppDispatch()
  const snapshot = useAppSelector((s) => s.editor.snapshot)
  const controls = preset.controls ?? []
  const capacity = capacityOf(preset.device)
  const pedals = controls.filter((c) => c.kind === 'pedal').length
  const assignments = controls.reduce((n, c) => n + c.targets.length, 0)
  const add = (kind: ControlKind) => {
    const count = controls.filter((c) => c.kind === kind).length
    const control = createControl(newId(), kind, `${KIND_NAMES[kind]}${count > 0 ? ` ${count + 1}` : ''}`)
    dispatch(edit({ type: 'addControl', control }))
    onChoose(control.id)
  }
  const make = (move: ReadyMove) => {
    try {
      const made = readyMoveEdit(move, { preset, snapshot, newId }, controls.find((c) => c.id === chosen) ?? null)
      dispatch(edit(made.edit))
      onChoose(made.control)
    } catch (error) {
      if (!(error instanceof RangeError)) throw error
      dispatch(notified({ kind: 'warning', text: error.message }))
    }
  }
  return (
    <section aria-label="Sources" className="min-h-0 overflow-y-auto border-r border-ink max-[1100px]:border-r-0 max-[1100px]:border-b">
      <p className="eyebrow border-b border-rule px-3.5 py-1.5">move a source to choose it</p>
      {controls.map((control) => (
        <SourceItem key={control.id} control={control} chosen={control.id === chosen} onChoose={() => onChoose(control.id)} />
      ))}
      <div className="px-3.5 py-2">
        <Menu>
          <MenuButton className="act">
            Add a source
            <Chevron />
          </MenuButton>
          <MenuItems modal={false} anchor="bottom start" className="menu">
            {CONTROL_KINDS.map((kind) => (
              <MenuItem key={kind}>
                <button type="button" className="menu-item" onClick={() => add(kind)}>
                  {KIND_NAMES[kind]}
                </button>
              </MenuItem>
            ))}
          </MenuItems>
        </Menu>
      </div>
      <p className="px-3.5 pb-2 text-[11px] leading-[14px] text-ink3" data-capacity>
        {deviceOf(preset.device).name}: {controls.length} of {capacity.sources} sources, {pedals} of {capacity.pedals} pedals, {assignments}{' '}
        of {capacity.assignments} assignments
      </p>
      <div className="border-t border-rule px-3.5 py-2" role="group" aria-label="Ready moves">
        <h2 className="text-[15px]">Ready moves</h2>
        {readyMoves.map((move) => (
          <div key={move.id} className="py-0.5">
            <button type="button" className="act" title={move.reason} onClick={() => make(move)}>
              {move.name}
            </button>
            <p className="text-[11px] leading-[14px] text-ink3">{move.reason}</p>
          </div>
        ))}
      </div>
    </section>
  )
}

function SourceItem({ control, chosen, onChoose }: { control: Control; chosen: boolean; onChoose: () => void }) {
  const dispatch = useAppDispatch()
  const position = useAppSelector((s) => positionIn(s, control))
  const engaged = useAppSelector((s) => s.controls.engaged[control.id] ?? control.onSnapshot === 'jump')
  const move = (to: number) => dispatch(moveControl(control, to))
  const count = control.targets.length
  const { kind } = control
  return (
    <div
      className={`relative border-b border-rule px-3.5 py-2 ${chosen ? 'bg-lit before:absolute before:inset-y-0 before:left-0 before:w-[3px] before:bg-ember' : ''}`}
      data-source={control.name}
    >
      <button type="button" className="block w-full text-left" aria-pressed={chosen} onClick={onChoose}>
        <span className="block text-name font-semibold">{control.name}</span>
        <span className="block text-[11.5px] text-ink2">
          {KIND_NAMES[kind].toLowerCase()}, {count} {count === 1 ? 'target' : 'targets'}
        </span>
      </button>
      {runsItself(control) ? (
        <p className="text-[11.5px] text-ink3">{kind === 'lfo' ? 'swings by itself' : 'listens, does not send'}</p>
      ) : kind === 'latching' || kind === 'momentary' ? (
        <button
          type="button"
          className={`my-1 min-h-7 w-full border text-[12px] ${position > 0.5 ? 'border-ember font-bold text-ember' : 'border-control'}`}
          aria-pressed={position > 0.5}
          onFocus={onChoose}
          onPointerDown={kind === 'momentary' ? () => move(1) : undefined}
          onPointerUp={kind === 'momentary' ? () => move(0) : undefined}
          onPointerLeave={kind === 'momentary' ? () => position > 0 && move(0) : undefined}
          onKeyDown={kind === 'momentary' ? (e) => e.key === 'Enter' && !e.repeat && move(1) : undefined}
          onKeyUp={kind === 'momentary' ? (e) => e.key === 'Enter' && move(0) : undefined}
          onClick={kind === 'latching' ? () => move(position > 0.5 ? 0 : 1) : undefined}
        >
          {position > 0.5 ? 'down' : 'up'}
        </button>
      ) : (
        <input
          type="range"
          className="slider"
          style={
            {
              '--thumb': engaged ? 'var(--ember)' : 'var(--ink)',
              '--fill': 'transparent',
              '--from': '0%',
              '--span': '0%',
              '--base': '-9px',
            } as React.CSSProperties
          }
          aria-label={`Position of ${control.name}`}
          aria-valuetext={`${Math.round(position * 100)} %`}
          min={0}
          max={1000}
          step={10}
          value={Math.round(position * 1000)}
          onFocus={onChoose}
          onChange={(event) => {
            onChoose()
            move(Number(event.currentTarget.value) / 1000)
          }}
        />
      )}
      <p className="num text-[11px] text-ink3">
        {runsItself(control) ? '' : `${Math.round(position * 100)} %`}
        {!engaged && !runsItself(control) && (control.onSnapshot === 'pickup' ? ' · waits for pickup' : ' · stored values until moved')}
      </p>
    </div>
  )
}
