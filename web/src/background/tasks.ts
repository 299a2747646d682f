/** What a task may do while it runs in a thread. */
export interface Task {
  /** Lets messages in. @throws Cancelled where nobody waits for the answer any more */
  breathe(): Promise<void>
  /** Tells the page something before the answer is whole. */
  tell(part: unknown): void
  /** Whether it was asked to come to an end early, with what it has. */
  readonly stopping: boolean
}

/** A function that a thread carries out for the page; its arguments and its answer are copied between both. */
export type Work = (task: Task, ...args: never[]) => unknown

/** What a thread can do, by name. */
export type Tasks = Record<string, Work>

export type Arguments<W extends Work> = W extends (task: Task, ...args: infer A) => unknown ? A : never
export type Answer<W extends Work> = Awaited<ReturnType<W>>

/** A thread as the page sees it: each call has a ticket, by which it is stopped. */
export interface Thread {
  /** @param tell hears parts in their order; what it returns is done when a part was heard, and the answer comes after the last one */
  run(ticket: number, name: string, args: readonly unknown[], tell: ((part: unknown) => unknown) | null): Promise<unknown>
  /** Ends a call early: its answer is what it has by then. */
  stop(ticket: number): void
  /** Ends a call; its answer is thrown away. */
  cancel(ticket: number): void
}

/** Why there is no answer: nobody wanted it any more. */
export class Cancelled extends Error {
  constructor() {
    super('It was cancelled.')
    this.name = 'Cancelled'
  }
}

/** What is told of a failure, whatever was thrown. */
export const reasonOf = (error: unknown): string => (error instanceof Error ? error.message : String(error))
