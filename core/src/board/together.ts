/** ms within which two feet, or one across both, count as pressing at once (common practice, no source). */
export const TOGETHER_MS = 50

/** What two feet come to: a move of one switch alone, or of a pair that acts as one, told by its left switch. */
export interface FootEvent {
  readonly kind: 'alone' | 'both'
  readonly at: string
  readonly down: boolean
  /** ms of the move itself, which may have been held back. */
  readonly when: number
}

/**
 * Tells two switches that are pressed at once from two presses. A switch that belongs to a pair waits {@link TOGETHER_MS} for the other
 * one; every other acts as it is moved. Places are told by any text of their own; whoever owns it calls {@link due} at {@link dueAt}.
 */
export class Together {
  /** Those that are down and may still become a pair. */
  private readonly waiting = new Map<string, number>()
  /** Left switch of the pair that a switch is down in. */
  private readonly paired = new Map<string, string>()

  /** @param others left switch of each pair that the moved one belongs to, by the other switch of it */
  move(at: string, down: boolean, when: number, others: ReadonlyMap<string, string>): FootEvent[] {
    const before = this.due(when)
    return [...before, ...(down ? this.pressed(at, when, others) : this.lifted(at, when))]
  }

  private pressed(at: string, when: number, others: ReadonlyMap<string, string>): FootEvent[] {
    for (const [other, left] of others) {
      if (!this.waiting.delete(other)) continue
      this.paired.set(at, left)
      this.paired.set(other, left)
      return [{ kind: 'both', at: left, down: true, when }]
    }
    if (others.size === 0) return [{ kind: 'alone', at, down: true, when }]
    this.waiting.set(at, when)
    return []
  }

  private lifted(at: string, when: number): FootEvent[] {
    const pressed = this.waiting.get(at)
    if (pressed !== undefined) {
      this.waiting.delete(at)
      return [
        { kind: 'alone', at, down: true, when: pressed },
        { kind: 'alone', at, down: false, when },
      ]
    }
    const left = this.paired.get(at)
    if (left === undefined) return [{ kind: 'alone', at, down: false, when }]
    this.paired.delete(at)
    // the first foot that leaves ends it; the second one then ends nothing
    return [...this.paired.values()].includes(left) ? [{ kind: 'both', at: left, down: false, when }] : []
  }

  /** ms at which a switch that waits acts alone; null: none waits. */
  dueAt(): number | null {
    return this.waiting.size === 0 ? null : Math.min(...this.waiting.values()) + TOGETHER_MS
  }

  due(now: number): FootEvent[] {
    return [...this.waiting].flatMap(([at, when]): FootEvent[] => {
      if (when + TOGETHER_MS > now) return []
      this.waiting.delete(at)
      return [{ kind: 'alone', at, down: true, when }]
    })
  }
}
