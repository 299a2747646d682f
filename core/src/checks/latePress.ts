import { actsWhileDown, habitsOf, pressDelay } from '@fulgor/core/board'
import type { Check, Finding } from './finding'
import { placeWords } from './freeSwitch'

/** A snapshot or a tap that has to wait until it is clear that no second press comes. */
export const latePress: Check = {
  id: 'late-press',
  why: 'A switch that can also be held or pressed twice must wait to know which is meant. On a change that belongs on the beat this is heard.',
  find(preset) {
    const { board } = preset
    if (!board) return []
    return board.switches.flatMap((own): Finding[] => {
      if (own.press?.do !== 'snapshot' && own.press?.do !== 'tap') return []
      const delay = pressDelay(habitsOf(own, board, actsWhileDown(preset, own.press)), board.doubleMs)
      if (delay === 0 || (delay === 'release' && own.press.do !== 'tap')) return []
      return [
        {
          rule: latePress.id,
          severity: 'note',
          where: [],
          figure:
            delay === 'release'
              ? `${placeWords(own)}, taps when the foot is lifted, since it can also be held.`
              : `${placeWords(own)}, acts ${delay} ms late, since it waits for a second press.`,
          reason: own.press.do === 'tap' ? 'A tap counts by its moment.' : 'A snapshot that belongs on the beat comes after it.',
          mends: [
            {
              label: delay === 'release' ? 'Nothing on hold' : 'Nothing on a double press',
              edits: [{ type: 'changeSwitch', id: own.id, change: delay === 'release' ? { hold: null } : { double: null } }],
            },
          ],
        },
      ]
    })
  },
}
