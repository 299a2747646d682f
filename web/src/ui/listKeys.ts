import type { KeyboardEvent } from 'react'

interface ListKeys {
  /** How many rows the list has. */
  readonly count: number
  /** The marked row, −1 for none. */
  readonly at: number
  readonly onMark: (at: number) => void
  /** Enter on the marked row; on none nothing happens. */
  readonly onTake: () => void
}

/** Keys of a list under its search field: up and down walk it in a ring, Enter takes what is marked. */
export const listKeys =
  ({ count, at, onMark, onTake }: ListKeys) =>
  (event: KeyboardEvent): void => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
    if (step !== undefined && count > 0) onMark(stepped(at, step, count))
    else if (event.key === 'Enter') onTake()
    else return
    // else the key would press what has the focus once the list is gone
    event.preventDefault()
  }

/** The next row of a ring; from none the first or the last. */
export const stepped = (at: number, step: number, count: number): number => {
  if (at < 0) return step > 0 ? 0 : count - 1
  return (Math.min(at, count - 1) + step + count) % count
}
