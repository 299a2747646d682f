import { arePaired } from '@fulgor/core/board'
import { assignmentsOf, liveIn, names, notIn, paramWords } from './control'
import type { Check, Finding } from './finding'

/** One parameter under two sources goes where the later one says, and jumps when the other is moved. */
export const movedTwice: Check = {
  id: 'moved-twice',
  why: 'A parameter can stand in one place at a time. With two sources on it the one that was moved last wins, and the value jumps when the other is touched.',
  find(preset) {
    const all = assignmentsOf(preset)
    return all.flatMap((a, i): Finding[] =>
      all.slice(i + 1).flatMap((b): Finding[] => {
        if (a.target.stage !== b.target.stage || a.target.param !== b.target.param) return []
        const both = liveIn(preset, a.target).filter((s) => liveIn(preset, b.target).includes(s))
        if (both.length === 0 || arePaired(preset, a.control.id, b.control.id)) return []
        const same = a.control === b.control
        return [
          {
            rule: movedTwice.id,
            severity: 'warning',
            where: [a.target.stage],
            controls: [a.control.id, b.control.id],
            figure: same
              ? `${a.control.name} moves ${paramWords(preset, a.target)} twice in ${names(both)}.`
              : `${a.control.name} and ${b.control.name} both move ${paramWords(preset, a.target)} in ${names(both)}.`,
            reason: `${same ? 'The second assignment' : b.control.name} wins, and what the other does is not heard.`,
            mends: [
              { label: same ? 'Keep the first' : `Keep it on ${a.control.name} only`, edits: [notIn(preset, b, both)] },
              { label: same ? 'Keep the second' : `Keep it on ${b.control.name} only`, edits: [notIn(preset, a, both)] },
            ],
          },
        ]
      }),
    )
  },
}
