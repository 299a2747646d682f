import { DndContext, PointerSensor, useDraggable, useDroppable, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core'
import { useEffect, useRef, type CSSProperties, type KeyboardEvent, type PointerEvent } from 'react'
import { functionLabel } from '@fulgor/core/board'
import {
  capacityOf,
  EMPTY_BOARD,
  functionsOf,
  switchAt,
  type BoardPlace,
  type BoardSwitch,
  type Control,
  type Preset,
} from '@fulgor/core/preset'
import { isTyping } from '../../ui/isTyping'
import { edit } from '../../state/actions'
import { footMoved, isLit } from '../../state/board'
import { moveControl, positionIn } from '../../state/controls'
import { useAppDispatch, useAppSelector, useAppStore } from '../../state/store'
import { Dot } from '../../ui/marks'

/** Keys of the keyboard as they lie: the back row above the front row. */
const BACK_KEYS = 'qwerty'
const FRONT_KEYS = 'asdfgh'

interface Props {
  preset: Preset
  hand: 'play' | 'arrange'
  chosen: BoardPlace
  onChoose: (index: number) => void
  /** A switch was taken to this place. */
  onMoved: (index: number) => void
}

/** Switches in the row nearest to the foot; from five on the others stand in a row behind. */
const frontCount = (switches: number): number => (switches <= 4 ? switches : Math.ceil(switches / 2))

const keyOf = (index: number, switches: number): string => {
  const front = frontCount(switches)
  return index < front ? FRONT_KEYS[index] : BACK_KEYS[index - front]
}

/** One face of the foot controller with its pedals: played, or arranged. */
export function Pedalboard({ preset, hand, chosen, onChoose, onMoved }: Props) {
  const dispatch = useAppDispatch()
  const { page, bank } = useAppSelector((s) => s.board)
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }))
  const board = preset.board ?? EMPTY_BOARD
  const { switches } = capacityOf(preset.device)
  const front = frontCount(switches)
  useBoardKeys(hand === 'play', board.switches, switches)
  const pedals = (preset.controls ?? []).filter((c) => c.kind === 'pedal')
  const at = (index: number): BoardPlace => ({ page, bank, index })
  const move = (from: number, to: number) => {
    const own = switchAt(board, at(from))
    if (!own || to < 0 || to >= switches || from === to) return
    dispatch(edit({ type: 'moveSwitch', id: own.id, to: at(to) }))
    onMoved(to)
  }
  const dropped = ({ active, over }: DragEndEvent) => {
    if (over) move(Number(active.id), Number(over.id))
  }
  const indices = Array.from({ length: switches }, (_, i) => i)
  const rows = [indices.slice(front), indices.slice(0, front)].filter((row) => row.length > 0)
  const onKeyDown = (event: KeyboardEvent<HTMLElement>) => {
    const from = Number((event.target as HTMLElement).closest<HTMLElement>('[data-switch]')?.dataset.switch ?? NaN)
    const step = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: front, ArrowDown: -front }[event.key]
    if (Number.isNaN(from) || step === undefined || event.ctrlKey || event.metaKey) return
    const to = from + step
    if (to < 0 || to >= switches) return
    event.preventDefault()
    event.stopPropagation()
    if (event.altKey && hand === 'arrange') move(from, to)
    else onChoose(to)
    event.currentTarget.querySelector<HTMLElement>(`[data-switch="${to}"]`)?.focus()
  }
  return (
    <DndContext sensors={sensors} onDragEnd={dropped}>
      <div
        role="group"
        aria-label={`Board, ${page === 'snapshots' ? 'page of snapshots' : 'page of singles'}, bank ${bank + 1}`}
        className="mt-2 flex gap-3 max-[700px]:flex-col"
        onKeyDown={onKeyDown}
      >
        <div className="flex min-w-0 flex-1 flex-col border-t border-rule2">
          {rows.map((row, r) => (
            <div
              key={row[0]}
              className="grid"
              aria-label={rows.length === 1 ? 'Switches' : r === 0 ? 'Far row' : 'Near row'}
              role="group"
              style={{ gridTemplateColumns: `repeat(${front}, minmax(0, 1fr))` }}
            >
              {row.map((index) => (
                <FootSwitch
                  key={index}
                  preset={preset}
                  own={switchAt(board, at(index))}
                  index={index}
                  hand={hand}
                  letter={hand === 'play' ? keyOf(index, switches).toUpperCase() : ''}
                  chosen={chosen.index === index && chosen.page === page && chosen.bank === bank}
                  onChoose={() => onChoose(index)}
                />
              ))}
            </div>
          ))}
        </div>
        {pedals.length > 0 && (
          <div className="flex border-t border-b border-rule2">
            {pedals.map((control) => (
              <Pedal key={control.id} control={control} />
            ))}
          </div>
        )}
      </div>
    </DndContext>
  )
}

/** A key down is a foot down; it ends on the switch that it began on. */
function useBoardKeys(playing: boolean, switches: readonly BoardSwitch[], count: number): void {
  const store = useAppStore()
  const own = useRef(switches)
  useEffect(() => {
    own.current = switches
  }, [switches])
  useEffect(() => {
    if (!playing) return
    const held = new Map<string, string>()
    const onKey = (event: globalThis.KeyboardEvent) => {
      const target = event.target as HTMLElement
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(target)) return
      if (target.closest('[role=dialog], [role=menu], [role=listbox]')) return
      const index = Array.from({ length: count }, (_, i) => i).find((i) => keyOf(i, count) === event.key.toLowerCase())
      if (index === undefined) return
      // here these keys are switches, whatever they are elsewhere
      event.preventDefault()
      event.stopPropagation()
      if (event.repeat) return
      const { page, bank } = store.getState().board
      const id = own.current.find((s) => s.page === page && s.bank === bank && s.index === index)?.id
      if (id === undefined) return
      held.set(event.key.toLowerCase(), id)
      store.dispatch(footMoved(id, true, event.timeStamp))
    }
    const lift = (key: string, at: number) => {
      const id = held.get(key)
      if (id === undefined) return
      held.delete(key)
      store.dispatch(footMoved(id, false, at))
    }
    const onKeyUp = (event: globalThis.KeyboardEvent) => lift(event.key.toLowerCase(), event.timeStamp)
    const liftAll = () => [...held.keys()].forEach((key) => lift(key, performance.now()))
    addEventListener('keydown', onKey, true)
    addEventListener('keyup', onKeyUp, true)
    addEventListener('blur', liftAll)
    return () => {
      liftAll()
      removeEventListener('keydown', onKey, true)
      removeEventListener('keyup', onKeyUp, true)
      removeEventListener('blur', liftAll)
    }
  }, [playing, count, store])
}

function FootSwitch(props: {
  preset: Preset
  own: BoardSwitch | undefined
  index: number
  hand: Props['hand']
  letter: string
  chosen: boolean
  onChoose: () => void
}) {
  const { preset, own, index, hand, letter, chosen, onChoose } = props
  const dispatch = useAppDispatch()
  const down = useAppSelector((s) => own !== undefined && s.board.down.includes(own.id))
  const fns = own ? functionsOf(own) : []
  const main = fns.at(0)
  const lit = useAppSelector((s) => main !== undefined && isLit(s, preset, main.fn))
  const hasLamp = main !== undefined && ['stages', 'source', 'pedals', 'tuner'].includes(main.fn.do)
  const drag = useDraggable({ id: index, disabled: hand === 'play' || !own })
  const drop = useDroppable({ id: index, disabled: hand === 'play' })
  const foot = (on: boolean, at: number) => own && dispatch(footMoved(own.id, on, at))
  const label = own?.label || (main ? functionLabel(preset, main.fn) : '')
  const others = fns.slice(1)
  const style: CSSProperties = drag.transform
    ? { transform: `translate(${drag.transform.x}px, ${drag.transform.y}px)`, zIndex: 10, position: 'relative' }
    : {}
  const press =
    hand === 'play'
      ? {
          onPointerDown: (event: PointerEvent<HTMLButtonElement>) => {
            if (event.button !== 0) return
            event.currentTarget.setPointerCapture(event.pointerId)
            foot(true, event.timeStamp)
          },
          onPointerUp: (event: PointerEvent) => foot(false, event.timeStamp),
          onPointerCancel: (event: PointerEvent) => foot(false, event.timeStamp),
          onKeyDown: (event: KeyboardEvent) => {
            if (event.key !== 'Enter' || event.repeat) return
            event.preventDefault()
            foot(true, event.timeStamp)
          },
          onKeyUp: (event: KeyboardEvent) => event.key === 'Enter' && foot(false, event.timeStamp),
          onFocus: onChoose,
        }
      : { ...drag.listeners, onClick: onChoose, onFocus: onChoose }
  return (
    <button
      ref={(node) => {
        drag.setNodeRef(node)
        drop.setNodeRef(node)
      }}
      type="button"
      data-switch={index}
      data-lit={lit}
      data-down={down}
      aria-pressed={hand === 'play' ? lit : chosen}
      style={style}
      className={`relative flex h-[58px] min-w-0 touch-none flex-col justify-between border-l border-rule px-2 pt-1 pb-1.5 text-left select-none first:border-l-0 ${
        down ? 'bg-deep' : 'bg-paper hover:bg-deep'
      } ${lit ? 'shadow-[inset_0_-4px_0_var(--ember)]' : main ? 'shadow-[inset_0_-1px_0_var(--ink)]' : 'shadow-[inset_0_-1px_0_var(--rule-2)]'} ${
        drop.isOver
          ? 'outline-2 outline-lane outline-dashed'
          : chosen && hand === 'arrange'
            ? 'outline-2 -outline-offset-2 outline-ink'
            : ''
      } ${hand === 'arrange' && own ? 'cursor-grab' : ''}`}
      {...press}
    >
      <span className="sr-only">{`Switch ${index + 1}: ${label || 'no function'}${others.map(({ gesture, fn }) => `, ${gesture}: ${functionLabel(preset, fn)}`).join('')}`}</span>
      <span
        aria-hidden="true"
        className={`flex min-w-0 items-center gap-1.5 font-head text-section leading-tight font-bold [font-stretch:var(--head-width)] ${lit ? 'text-ember' : main ? 'text-ink' : 'text-ink3'}`}
      >
        {hasLamp && <Dot on={lit} />}
        <span className="line-clamp-2 min-w-0">{label || (own ? 'no function' : 'free')}</span>
      </span>
      <span aria-hidden="true" className="flex items-baseline gap-2 text-axis leading-[13px] text-ink2">
        <span className={`num ${lit ? 'font-bold text-ember' : 'text-ink3'}`}>{index + 1}</span>
        <span className="min-w-0 truncate">
          {others.map(({ gesture, fn }) => `${gesture === 'hold' ? 'hold' : 'twice'}: ${functionLabel(preset, fn)}`).join(' · ')}
        </span>
        {letter !== '' && <span className="num ml-auto text-ink3">key {letter}</span>}
      </span>
    </button>
  )
}

/** An expression pedal from above: its slider stands as the pedal does. */
function Pedal({ control }: { control: Control }) {
  const dispatch = useAppDispatch()
  const position = useAppSelector((s) => positionIn(s, control))
  const resting = useAppSelector((s) => s.controls.resting.includes(control.id))
  return (
    <label className={`flex w-[66px] flex-col items-center gap-0.5 border-l border-rule px-1 py-1 ${resting ? 'text-ink3' : ''}`}>
      <span className="num text-axis text-ink2">{Math.round(position * 100)} %</span>
      <input
        type="range"
        className="upright min-h-[72px] flex-1"
        aria-label={`Position of ${control.name}`}
        aria-valuetext={`${Math.round(position * 100)} %`}
        min={0}
        max={1000}
        value={Math.round(position * 1000)}
        onChange={(event) => dispatch(moveControl(control, Number(event.currentTarget.value) / 1000))}
      />
      <span className="max-w-full truncate text-axis">{resting ? 'rests' : control.name}</span>
    </label>
  )
}
