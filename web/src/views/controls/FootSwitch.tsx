import { useDraggable, useDroppable } from '@dnd-kit/core'
import { useRef, type CSSProperties, type KeyboardEvent, type PointerEvent } from 'react'
import { functionLabel } from '@fulgor/core/board'
import { functionsOf, type BoardPlace, type BoardSwitch, type Control, type Gesture, type Preset } from '@fulgor/core/preset'
import { footMoved, isLit } from '../../state/board'
import { moveControl, positionIn } from '../../state/controls'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { Dot } from '../../ui/marks'

const SHORT: Record<Gesture, (index: number) => string> = {
  press: () => 'press',
  hold: () => 'hold',
  double: () => 'twice',
  both: (index) => `with ${index + 2}`,
}

export function FootSwitch(props: {
  preset: Preset
  own: BoardSwitch | undefined
  place: BoardPlace
  hand: 'play' | 'arrange'
  letter: string
  chosen: boolean
  onChoose: () => void
}) {
  const { preset, own, place, hand, letter, chosen, onChoose } = props
  const { index } = place
  const dispatch = useAppDispatch()
  const down = useAppSelector((s) => own !== undefined && s.board.down.includes(own.id))
  const fns = own ? functionsOf(own) : []
  const main = fns.at(0)
  const lit = useAppSelector((s) => main !== undefined && isLit(s, preset, main.fn))
  const hasLamp = main !== undefined && ['stages', 'source', 'pedals', 'tuner'].includes(main.fn.do)
  const drag = useDraggable({ id: index, disabled: hand === 'play' || !own })
  const drop = useDroppable({ id: index, disabled: hand === 'play' })
  // the press may lead to another face of the board: the foot leaves the one that it came down on
  const under = useRef<BoardPlace | null>(null)
  const foot = (on: boolean, at: number) => {
    const there = on ? place : under.current
    under.current = on ? place : null
    if (there) dispatch(footMoved(there, on, at))
  }
  const wordsOf = ({ gesture, fn }: (typeof fns)[number]) =>
    `${gesture === 'press' ? '' : `${SHORT[gesture](index)}: `}${functionLabel(preset, fn)}`
  const label = own?.label || (main ? wordsOf(main) : '')
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
      <span className="sr-only">{`Switch ${index + 1}: ${label || 'no function'}${others.map((other) => `, ${wordsOf(other)}`).join('')}`}</span>
      <span
        aria-hidden="true"
        className={`flex min-w-0 items-center gap-1.5 font-head text-section leading-tight font-bold [font-stretch:var(--head-width)] ${lit ? 'text-ember' : main ? 'text-ink' : 'text-ink3'}`}
      >
        {hasLamp && <Dot on={lit} />}
        <span className="line-clamp-2 min-w-0">{label || (own ? 'no function' : 'free')}</span>
      </span>
      <span aria-hidden="true" className="flex items-baseline gap-2 text-axis leading-[13px] text-ink2">
        <span className={`num ${lit ? 'font-bold text-ember' : 'text-ink3'}`}>{index + 1}</span>
        <span className="min-w-0 truncate">{others.map(wordsOf).join(' · ')}</span>
        {letter !== '' && <span className="num ml-auto text-ink3">key {letter}</span>}
      </span>
    </button>
  )
}

/** An expression pedal from above: its slider stands as the pedal does. */
export function Pedal({ control }: { control: Control }) {
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
        step={10}
        value={Math.round(position * 1000)}
        onChange={(event) => dispatch(moveControl(control, Number(event.currentTarget.value) / 1000))}
      />
      <span className="max-w-full truncate text-axis">{resting ? 'rests' : control.name}</span>
    </label>
  )
}
