import {
  actsWhileDown,
  faceAfter,
  Gestures,
  habitsOf,
  isOn,
  isUsable,
  switchedStages,
  Together,
  type FootEvent,
  type GestureEvent,
} from '@fulgor/core/board'
import {
  capacityOf,
  EMPTY_BOARD,
  type Board,
  type BoardPlace,
  type BoardSwitch,
  type Edit,
  type Preset,
  type SwitchFunction,
} from '@fulgor/core/preset'
import { edit, presentPreset } from './actions'
import { boardOpened, faceShown, footChanged, presetStepped, stagesToggled, tunerSet } from './boardSlice'
import { loadSnapshot, moveControl, positionIn } from './controls'
import { restingSet } from './controlsSlice'
import type { RootState, Listening, Thunk } from './store'
import { tap } from './tempo'

/** What tells the gestures of a switch apart while it is played. */
interface Machine {
  readonly own: BoardSwitch
  readonly board: Board
  readonly gestures: Gestures
  timer: ReturnType<typeof setTimeout> | undefined
}

const machines = new Map<string, Machine>()

function machineOf(preset: Preset, id: string): Machine | undefined {
  const board = preset.board ?? EMPTY_BOARD
  const own = board.switches.find((s) => s.id === id)
  const known = machines.get(id)
  if (!own || (known?.own === own && known.board === board)) return own && known
  clearTimeout(known?.timer)
  const machine = { own, board, gestures: new Gestures(habitsOf(own, board, actsWhileDown(preset, own.press))), timer: undefined }
  machines.set(id, machine)
  return machine
}

let together = new Together()
let waits: ReturnType<typeof setTimeout> | undefined
/** Switches under a foot, by place, as they were when it came down. */
const underFoot = new Map<string, string>()
const placeKey = ({ page, bank, index }: BoardPlace): string => `${page} ${bank} ${index}`

/** The switches that one of this place can be pressed at once with; each with the left one of the two. */
function pairsAt(preset: Preset, { page, bank, index }: BoardPlace): ReadonlyMap<string, string> {
  const { switches } = preset.board ?? EMPTY_BOARD
  const capacity = capacityOf(preset.device)
  const acts = (i: number) =>
    switches.some((s) => s.page === page && s.bank === bank && s.index === i && s.both && isUsable('both', s, capacity))
  const at = (i: number) => placeKey({ page, bank, index: i })
  return new Map([
    ...(acts(index) ? [[at(index + 1), at(index)] as const] : []),
    ...(acts(index - 1) ? [[at(index - 1), at(index - 1)] as const] : []),
  ])
}

const switchOf = (preset: Preset, key: string): BoardSwitch | undefined =>
  (preset.board ?? EMPTY_BOARD).switches.find((s) => placeKey(s) === key)

/** A foot comes down at a place of the board, or leaves it. @param at ms of the page's clock */
export const footMoved =
  (place: BoardPlace, down: boolean, at: number): Thunk =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    if (!preset) return
    const key = placeKey(place)
    const own = switchOf(preset, key)
    if (down && own) underFoot.set(key, own.id)
    const id = underFoot.get(key) ?? own?.id
    if (!down) underFoot.delete(key)
    if (id !== undefined) dispatch(footChanged({ id, down }))
    const act = (events: readonly FootEvent[]) => {
      for (const event of events) {
        if (event.kind === 'alone') dispatch(alone(event, id !== undefined && event.at === key ? id : undefined))
        else {
          const fn = switchOf(presentPreset(getState()) ?? preset, event.at)?.both
          if (fn) dispatch(perform(fn, event.down, event.when))
        }
      }
      clearTimeout(waits)
      const due = together.dueAt()
      if (due !== null) waits = setTimeout(() => act(together.due(Math.max(due, performance.now()))), Math.max(0, due - performance.now()))
    }
    act(together.move(key, down, at, pairsAt(preset, place)))
  }

/** One switch by itself. @param id the one that the foot came down on, where that is known */
const alone =
  ({ at: key, down, when }: FootEvent, id: string | undefined): Thunk =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    const found = id ?? (preset ? switchOf(preset, key)?.id : undefined)
    // a switch that was changed under the foot still ends what it began
    const machine = preset && found !== undefined && (down ? machineOf(preset, found) : (machines.get(found) ?? machineOf(preset, found)))
    if (!machine) return
    const act = (events: readonly GestureEvent[], at: number) => {
      for (const { gesture, on } of events) {
        const fn = machine.own[gesture]
        if (fn) dispatch(perform(fn, on, at))
      }
      clearTimeout(machine.timer)
      const due = machine.gestures.dueAt()
      if (due !== null)
        machine.timer = setTimeout(
          () => act(machine.gestures.due(Math.max(due, performance.now())), due),
          Math.max(0, due - performance.now()),
        )
    }
    act(down ? machine.gestures.down(when) : machine.gestures.up(when), when)
  }

/** Does what a switch is there for; most functions act when a gesture begins, and know no end. */
export const perform =
  (fn: SwitchFunction, on: boolean, at: number): Thunk =>
  (dispatch, getState) => {
    const state = getState()
    const preset = presentPreset(state)
    if (!preset) return
    if (fn.do === 'source') {
      const control = preset.controls?.find((c) => c.id === fn.control)
      if (!control) return
      if (control.kind === 'momentary') dispatch(moveControl(control, on ? 1 : 0))
      else if (on) dispatch(moveControl(control, positionIn(state, control) > 0.5 ? 0 : 1))
      return
    }
    if (!on) return
    switch (fn.do) {
      case 'snapshot':
        dispatch(loadSnapshot(fn.snapshot))
        break
      case 'stages':
        dispatch(stagesToggled(switchedStages(preset, fn, state.editor.snapshot, state.board.toggled)))
        break
      case 'pedals':
        dispatch(restingSet(exchanged(state.controls.resting, fn.controls)))
        break
      case 'tap':
        dispatch(tap(at))
        break
      case 'tuner':
        dispatch(tunerSet(!state.board.tuner))
        break
      case 'preset':
        dispatch(presetStepped(fn.by))
        break
      default: {
        const next = faceAfter(state.board, fn, capacityOf(preset.device).banks)
        if (next) dispatch(faceShown(next))
      }
    }
  }

/** One source: rests or acts. Two: the one that acts rests from now on, and the other acts. */
function exchanged(resting: readonly string[], [first, second]: readonly string[]): string[] {
  const others = resting.filter((id) => id !== first && id !== second)
  const acts = !resting.includes(first)
  if (acts) return [...others, first]
  return second === undefined ? others : [...others, second]
}

/** Whether the lamp of a switch is lit for a function. */
export function isLit(state: RootState, preset: Preset, fn: SwitchFunction): boolean {
  switch (fn.do) {
    case 'snapshot':
      return fn.snapshot === state.editor.snapshot
    case 'stages': {
      const on = fn.stages.map((id) => isOn(preset, id, state.editor.snapshot, state.board.toggled))
      return fn.how === 'each' ? on[0] : on.every(Boolean)
    }
    case 'source': {
      const control = preset.controls?.find((c) => c.id === fn.control)
      return control !== undefined && positionIn(state, control) > 0.5
    }
    case 'pedals':
      return !state.controls.resting.includes(fn.controls[0])
    case 'tuner':
      return state.board.tuner
    default:
      return false
  }
}

/** What the foot has switched becomes the snapshot's own, in one step of undo. */
export const keepToggled = (): Thunk => (dispatch, getState) => {
  const { editor, board } = getState()
  const snapshot = editor.snapshot
  if (snapshot === null) return
  const edits = Object.entries(board.toggled).map(([stage, on]): Edit => ({ type: 'setOn', stage, snapshot, on }))
  dispatch(edit({ type: 'all', edits }))
  dispatch(stagesToggled(null))
}

/** Shows the board's first face whenever another preset is opened. */
export function startBoard(listen: Listening): void {
  listen({
    predicate: (_, { editor }, { editor: before }) => editor.id !== before.id,
    effect: (_, page) => {
      machines.clear()
      clearTimeout(waits)
      together = new Together()
      underFoot.clear()
      page.dispatch(boardOpened(presentPreset(page.getState())?.board?.start ?? 'snapshots'))
    },
  })
}
