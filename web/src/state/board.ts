import { actsWhileDown, faceAfter, Gestures, habitsOf, isOn, switchedStages, type GestureEvent } from '@fulgor/core/board'
import { capacityOf, EMPTY_BOARD, type Board, type BoardSwitch, type Edit, type Preset, type SwitchFunction } from '@fulgor/core/preset'
import { edit, presentPreset } from './actions'
import { boardOpened, faceShown, footChanged, presetStepped, stagesToggled, tunerSet } from './boardSlice'
import { loadSnapshot, moveControl, positionIn, restingSet } from './controls'
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

/** A foot comes down on a switch, or leaves it. @param at ms of the page's clock */
export const footMoved =
  (id: string, down: boolean, at: number): Thunk =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    // a switch that was changed under the foot still ends what it began
    const machine = preset && (down ? machineOf(preset, id) : (machines.get(id) ?? machineOf(preset, id)))
    if (!machine) return
    dispatch(footChanged({ id, down }))
    const act = (events: readonly GestureEvent[], when: number) => {
      for (const { gesture, on } of events) {
        const fn = machine.own[gesture]
        if (fn) dispatch(perform(fn, on, when))
      }
      clearTimeout(machine.timer)
      const due = machine.gestures.dueAt()
      if (due !== null)
        machine.timer = setTimeout(
          () => act(machine.gestures.due(Math.max(due, performance.now())), due),
          Math.max(0, due - performance.now()),
        )
    }
    act(down ? machine.gestures.down(at) : machine.gestures.up(at), at)
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
      page.dispatch(boardOpened(presentPreset(page.getState())?.board?.start ?? 'snapshots'))
    },
  })
}
