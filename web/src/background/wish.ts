import type { Asked, Crew, Job } from './crew'
import { Cancelled, reasonOf, type Answer, type Tasks } from './tasks'

/** What came of several jobs that belong together. */
export interface Outcome<R> {
  /** By job; undefined where it is still to come, or failed. */
  readonly answers: readonly (R | undefined)[]
  /** By job: why there is no answer. */
  readonly problems: readonly (string | undefined)[]
  /** Jobs that are still to come. */
  readonly waiting: number
  /** ms from the wish to the last answer; null until then. */
  readonly ms: number | null
  /** What the wish was made for. */
  readonly of: readonly unknown[]
}

export interface Manner {
  /** ms that a wish stands before it is asked for, so that a movement asks once. */
  readonly afterMs?: number
  /** What was seen stays until there is something newer, also while nothing is wished for. */
  readonly hold?: boolean
  /** What runs already is let run, and seen if it is ready first; for pictures that follow a movement. */
  readonly follow?: boolean
}

/** Whether both lists hold the same. */
export const same = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((x, i) => Object.is(x, b[i]))

const NOTHING: Outcome<never> = { answers: [], problems: [], waiting: 0, ms: null, of: [] }

/** The newest wish of one place of the page: what was asked for before is given up, and its answers are never seen after newer ones. */
export class Wish<T extends Tasks, N extends keyof T & string> {
  private outcome: Outcome<Answer<T[N]>> = NOTHING
  /** Asked and not given up, the oldest first. */
  private turns: { readonly asked: Asked<unknown>[] }[] = []
  private wanted: readonly unknown[] | null = null
  private timer: ReturnType<typeof setTimeout> | undefined
  private readonly listeners = new Set<() => void>()

  constructor(private readonly crew: Crew<T>) {}

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  readonly now = (): Outcome<Answer<T[N]>> => this.outcome

  /** Asks anew where what the wish is made for has changed. */
  want(of: readonly unknown[], jobs: () => readonly Job<T, N>[], manner?: Manner): void {
    if (this.wanted && same(this.wanted, of)) return
    this.ask(jobs(), manner, of)
    this.wanted = of
  }

  /** @param of what the wish is made for; told with its outcome */
  ask(jobs: readonly Job<T, N>[], { afterMs = 0, hold = false, follow = false }: Manner = {}, of: readonly unknown[] = []): void {
    clearTimeout(this.timer)
    if (!follow) this.leave()
    if (jobs.length === 0) {
      if (!hold && this.outcome !== NOTHING) this.show(NOTHING)
      return
    }
    const began = performance.now()
    const answers: (Answer<T[N]> | undefined)[] = jobs.map(() => undefined)
    const problems: (string | undefined)[] = jobs.map(() => undefined)
    let waiting = jobs.length
    const show = () =>
      this.show({ answers: [...answers], problems: [...problems], waiting, ms: waiting === 0 ? performance.now() - began : null, of })
    if (!hold) show()
    const start = () => {
      const turn = { asked: jobs.map((job) => this.crew.ask(job)) }
      this.turns.push(turn)
      const arrived = () => {
        waiting--
        const at = this.turns.indexOf(turn)
        for (const older of this.turns.splice(0, Math.max(0, at))) giveUp(older)
        show()
      }
      turn.asked.forEach(({ answer }, i) => {
        answer.then(
          (found) => {
            answers[i] = found
            arrived()
          },
          (error: unknown) => {
            if (error instanceof Cancelled) return
            problems[i] = reasonOf(error)
            arrived()
          },
        )
      })
    }
    if (afterMs > 0) this.timer = setTimeout(start, afterMs)
    else start()
  }

  /** Gives up all that is asked for. */
  readonly leave = (): void => {
    clearTimeout(this.timer)
    this.wanted = null
    for (const turn of this.turns.splice(0)) giveUp(turn)
  }

  private show(outcome: Outcome<Answer<T[N]>>): void {
    this.outcome = outcome
    for (const listener of this.listeners) listener()
  }
}

const giveUp = ({ asked }: { readonly asked: Asked<unknown>[] }): void => {
  for (const { leave } of asked) leave()
}
