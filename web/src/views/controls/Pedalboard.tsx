import { DndContext, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core'
import { useEffect, type KeyboardEvent } from 'react'
import { columnsOf } from '@fulgor/core/board'
import { capacityOf, EMPTY_BOARD, switchAt, type BoardPlace, type Preset } from '@fulgor/core/preset'
import { isTyping } from '../../ui/isTyping'
import { edit } from '../../state/actions'
import { footMoved } from '../../state/board'
import { useAppDispatch, useAppSelector, useAppStore } from '../../state/store'
import { FootSwitch, Pedal } from './FootSwitch'

/** Keys of the keyboard as they lie: the back row above the front row. */
const BACK_KEYS = 'qwerty'

const FRONT_KEYS = 'asdfgh'

// the same object each time: another one would draw every switch anew
const BY_POINTER = { activationConstraint: { distance: 6 } }

interface Props {
  preset: Preset
  hand: 'play' | 'arrange'
  chosen: BoardPlace
  onChoose: (index: number) => void
  /** A switch was taken to this place. */
  onMoved: (index: number) => void
}

const keyOf = (index: number, switches: number): string => {
  const front = columnsOf(switches)
  return index < front ? FRONT_KEYS[index] : BACK_KEYS[index - front]
}

/** One face of the foot controller with its pedals: played, or arranged. */
export function Pedalboard({ preset, hand, chosen, onChoose, onMoved }: Props) {
  const dispatch = useAppDispatch()
  const { page, bank } = useAppSelector((s) => s.board)
  const sensors = useSensors(useSensor(PointerSensor, BY_POINTER))
  const board = preset.board ?? EMPTY_BOARD
  const { switches } = capacityOf(preset.device)
  const front = columnsOf(switches)
  useBoardKeys(hand === 'play', switches)
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
                  place={at(index)}
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
function useBoardKeys(playing: boolean, count: number): void {
  const store = useAppStore()
  useEffect(() => {
    if (!playing) return
    const held = new Map<string, BoardPlace>()
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
      const place = { page, bank, index }
      held.set(event.key.toLowerCase(), place)
      store.dispatch(footMoved(place, true, event.timeStamp))
    }
    const lift = (key: string, at: number) => {
      const place = held.get(key)
      if (place === undefined) return
      held.delete(key)
      store.dispatch(footMoved(place, false, at))
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
