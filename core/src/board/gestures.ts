import type { Board, BoardSwitch, Gesture } from '@fulgor/core/preset'

/** A gesture that was made; one that acts while the switch is down ends with `on` false. */
export interface GestureEvent {
  readonly gesture: Gesture
  readonly on: boolean
}

/** What a switch has to tell apart. */
export interface Habits extends Pick<Board, 'holdMs' | 'doubleMs'> {
  readonly hold: boolean
  readonly double: boolean
  /** The press acts while the switch is down: it cannot wait to see what comes. */
  readonly momentary: boolean
}

/** ms that a press comes later because of the other gestures of its switch; `release`: when the foot is lifted. */
export function pressDelay({ hold, double, momentary }: Omit<Habits, 'holdMs' | 'doubleMs'>, doubleMs: number): number | 'release' {
  if (momentary) return 0
  return double ? doubleMs : hold ? 'release' : 0
}

export const habitsOf = (own: BoardSwitch, board: Pick<Board, 'holdMs' | 'doubleMs'>, momentary: boolean): Habits => ({
  holdMs: board.holdMs,
  doubleMs: board.doubleMs,
  hold: own.hold !== null,
  double: own.double !== null,
  momentary,
})

/**
 * Tells a press, a hold and a double press apart. Without the other two a press acts at once; beside a hold it acts when the foot is
 * lifted, beside a double press after the time in which a second one may come. Times are ms of any clock that does not go back; whoever
 * owns it calls {@link due} at {@link dueAt}.
 */
export class Gestures {
  private downAt: number | null = null
  /** Until when a second press may come. */
  private until: number | null = null
  private readonly active = new Set<Gesture>()
  /** The press now down has said what it is. */
  private told = false

  constructor(private readonly habits: Habits) {}

  down(at: number): GestureEvent[] {
    const before = this.due(at)
    this.downAt = at
    if (this.until !== null) {
      this.until = null
      this.told = true
      return [...before, this.begin('double')]
    }
    const { hold, double, momentary, doubleMs } = this.habits
    this.told = momentary || !(hold || double)
    if (double) this.until = at + doubleMs
    return this.told ? [...before, this.begin('press')] : before
  }

  up(at: number): GestureEvent[] {
    const events = this.due(at)
    if (this.downAt === null) return events
    this.downAt = null
    if (!this.told && this.until === null) events.push(this.begin('press'))
    return [...events, ...this.end()]
  }

  /** ms at which something is decided without the foot; null: nothing waits. */
  dueAt(): number | null {
    const { hold, holdMs } = this.habits
    const holds = hold && this.downAt !== null && !this.active.has('hold') && !this.active.has('double') ? this.downAt + holdMs : Infinity
    const due = Math.min(holds, this.until ?? Infinity)
    return due === Infinity ? null : due
  }

  due(at: number): GestureEvent[] {
    const events: GestureEvent[] = []
    for (let next = this.dueAt(); next !== null && next <= at; next = this.dueAt()) {
      const isHold = this.habits.hold && this.downAt !== null && next === this.downAt + this.habits.holdMs && !this.active.has('hold')
      if (isHold) {
        this.until = null
        this.told = true
        events.push(this.begin('hold'))
        continue
      }
      // no second press has come; a foot that is still down may be holding
      this.until = null
      if (this.told || (this.downAt !== null && this.habits.hold)) continue
      this.told = true
      events.push(this.begin('press'))
      if (this.downAt === null) events.push(...this.end())
    }
    return events
  }

  private begin(gesture: Gesture): GestureEvent {
    this.active.add(gesture)
    return { gesture, on: true }
  }

  private end(): GestureEvent[] {
    const ended = [...this.active].map((gesture) => ({ gesture, on: false }))
    this.active.clear()
    return ended
  }
}
