import { effectOf } from '@fulgor/core/board'
import { capacityOf, EMPTY_BOARD, functionsOf, hasRoom, type Control, type Gesture, type Preset } from '@fulgor/core/preset'
import { onFreeSwitch, placeWords } from './freeSwitch'
import type { Check, Finding } from './finding'

const IS_DONE: Record<Gesture, string> = {
  press: 'pressed',
  hold: 'held',
  double: 'pressed twice',
  both: 'pressed with the next one',
}

const onBoard = (preset: Preset, id: string): boolean =>
  (preset.board ?? EMPTY_BOARD).switches.some((own) => functionsOf(own).some(({ fn }) => fn.do === 'source' && fn.control === id))

/** A source that moves nothing, a switch that does nothing anywhere, and a switched source that no foot can press. */
export const idleControl: Check = {
  id: 'idle-control',
  why: 'An assignment that moves nothing is forgotten about, and a foot on it wonders.',
  find(preset, newId) {
    const note = (figure: string, reason: string, mends: Finding['mends'], controls: readonly string[] = []): Finding => ({
      rule: idleControl.id,
      severity: 'note',
      where: [],
      controls,
      figure,
      reason,
      mends,
    })
    const sources = (preset.controls ?? []).flatMap((control: Control): Finding[] => {
      const remove = { label: 'Remove it', edits: [{ type: 'removeControl', control: control.id } as const] }
      if (control.targets.length === 0)
        return [note(`${control.name} moves nothing.`, 'It takes a place on the device for nothing.', [remove], [control.id])]
      const pressed = control.kind === 'momentary' || control.kind === 'latching'
      if (!pressed || control.midi !== null || preset.board === undefined || onBoard(preset, control.id)) return []
      return [
        note(
          `${control.name} is a switch that stands on no switch of the board.`,
          'No foot can press it, and no MIDI message moves it.',
          [...onFreeSwitch(preset, { do: 'source', control: control.id }, newId), remove],
          [control.id],
        ),
      ]
    })
    const switches = (preset.board?.switches ?? []).flatMap((own): Finding[] => {
      if (!hasRoom(capacityOf(preset.device), own)) return []
      const fns = functionsOf(own)
      const away = { label: 'Take it off the board', edits: [{ type: 'removeSwitch', id: own.id } as const] }
      if (fns.length === 0) return [note(`${placeWords(own)}, has no function.`, 'A foot that finds it finds nothing.', [away])]
      return fns
        .filter(({ fn }) => preset.snapshots.every((s) => effectOf(preset, fn, s.id).idle))
        .map(({ gesture }) =>
          note(
            `${placeWords(own)}, does nothing in any snapshot when it is ${IS_DONE[gesture]}.`,
            'What it moves is live in none of them.',
            [{ label: 'Take it off the switch', edits: [{ type: 'changeSwitch', id: own.id, change: { [gesture]: null } }] }],
          ),
        )
    })
    return [...sources, ...switches]
  },
}
