import { Cancelled, type Answer, type Arguments, type Tasks, type Thread } from './tasks'

/**
 * When a job has its turn: `now` is begun at once, beside what runs already; the others wait for a free thread, what is looked at
 * before what is next to it, and what nobody waits for last.
 */
export type Rank = 'now' | 'lit' | 'beside' | 'idle'

const ORDER: Record<Rank, number> = { now: 0, lit: 1, beside: 2, idle: 3 }

/** Jobs that a thread takes beside its own before one of them comes to the thread that works at what is looked at. */
const LIT_WEIGHT = 4

/** One call of a thread. */
export interface Job<T extends Tasks, N extends keyof T & string> {
  readonly task: N
  readonly args: Arguments<T[N]>
  /** What the answer depends on, as text: equal jobs share one answer. Made of the arguments unless given; null shares with none. */
  readonly key?: string | null
  readonly rank?: Rank
  /** Only the newest job of a line waits; one that runs is let run. */
  readonly line?: string
  /** The thread that knows this already, by number; another one takes it only when it has nothing else to do. */
  readonly home?: number
  /** Answers of this task that are kept for those who ask later. */
  readonly keep?: number
  /** Hears what is ready before the whole answer is. */
  readonly onPart?: (part: unknown) => void
}

/** A job that was asked for. */
export interface Asked<R> {
  /** @throws Cancelled after {@link leave}, or when a newer job of its line took its place; or whatever failed */
  readonly answer: Promise<R>
  /** Gives the answer up; the work ends unless someone else waits for it. */
  readonly leave: () => void
  /** Asks for an early end: the answer is what there is by then. */
  readonly stop: () => void
}

interface Waiter {
  done(answer: unknown): void
  fail(error: Error): void
  onPart?: ((part: unknown) => void) | undefined
}

interface Entry {
  readonly ticket: number
  readonly job: Job<Tasks, string>
  readonly key: string | null
  readonly waiters: Set<Waiter>
  thread: Member | null
}

interface Member {
  readonly index: number
  readonly thread: Thread
  readonly running: Set<Entry>
}

/**
 * Threads of one kind and the jobs that wait for them. Equal jobs are done once; a job that nobody waits for any more is taken back or
 * stopped; a thread that dies fails what it ran and is replaced.
 */
export class Crew<T extends Tasks> {
  private readonly members = new Map<number, Member>()
  private readonly waiting: Entry[] = []
  private readonly shared = new Map<string, Entry>()
  /** By task and key, the oldest first. */
  private readonly kept = new Map<string, Map<string, unknown>>()
  private tickets = 0
  private dealing = false

  /**
   * @param hire starts a thread; it tells when the thread has died
   * @param size threads, started when first needed
   */
  constructor(
    private readonly hire: (died: (reason: string) => void) => Thread,
    readonly size: number,
  ) {}

  /** A job of this crew, for where its type is not told by the place. */
  job<N extends keyof T & string>(task: N, args: Arguments<T[N]>, how: Omit<Job<T, N>, 'task' | 'args'> = {}): Job<T, N> {
    return { ...how, task, args }
  }

  /** Starts the threads before there is work for them: they load while the page does. */
  warm(): void {
    for (let i = 0; i < this.size; i++) this.member(i)
  }

  ask<N extends keyof T & string>(job: Job<T, N>): Asked<Answer<T[N]>> {
    const key = job.key === null ? null : `${job.task} ${job.key ?? JSON.stringify(job.args)}`
    const kept = this.kept.get(job.task)
    if (key !== null && kept?.has(key)) {
      const answer = Promise.resolve(kept.get(key) as Answer<T[N]>)
      return { answer, leave: () => undefined, stop: () => undefined }
    }
    let entry = key === null ? undefined : this.shared.get(key)
    if (!entry) {
      entry = { ticket: ++this.tickets, job: job as unknown as Job<Tasks, string>, key, waiters: new Set(), thread: null }
      if (key !== null) this.shared.set(key, entry)
      if (job.line !== undefined) this.dropLine(job.line)
      this.waiting.push(entry)
    }
    const asked = this.join(entry, job.onPart)
    // what is asked for together is dealt out together, each to its home; what is looked at does not wait for whoever asks to have done
    if (job.rank === 'lit' && !this.dealing) this.begin()
    else if (!this.dealing) {
      this.dealing = true
      queueMicrotask(this.begin)
    }
    return asked as Asked<Answer<T[N]>>
  }

  /** The answer of a job that is never given up. */
  run<N extends keyof T & string>(job: Job<T, N>): Promise<Answer<T[N]>> {
    return this.ask(job).answer
  }

  private join(entry: Entry, onPart: Waiter['onPart']): Asked<unknown> {
    let waiter: Waiter | null = null
    const answer = new Promise<unknown>((done, fail) => {
      waiter = { done, fail, onPart }
      entry.waiters.add(waiter)
    })
    // whoever leaves may not be listening any more
    answer.catch(() => undefined)
    return {
      answer,
      leave: () => {
        if (!waiter || !entry.waiters.delete(waiter)) return
        waiter.fail(new Cancelled())
        if (entry.waiters.size === 0) this.drop(entry)
      },
      stop: () => entry.thread?.thread.stop(entry.ticket),
    }
  }

  /** Takes back or stops what nobody waits for. */
  private drop(entry: Entry): void {
    if (entry.key !== null && this.shared.get(entry.key) === entry) this.shared.delete(entry.key)
    const at = this.waiting.indexOf(entry)
    if (at >= 0) this.waiting.splice(at, 1)
    entry.thread?.thread.cancel(entry.ticket)
  }

  private dropLine(line: string): void {
    for (const older of this.waiting.filter((e) => e.job.line === line)) {
      this.drop(older)
      this.settle(older, (w) => w.fail(new Cancelled()))
    }
  }

  private member(index: number): Member {
    let member = this.members.get(index)
    if (!member) {
      const hired: Member = { index, thread: this.hire((reason) => this.died(hired, reason)), running: new Set() }
      this.members.set(index, (member = hired))
    }
    return member
  }

  /** Another thread is started in its place when there is work for it. */
  private died(member: Member, reason: string): void {
    if (this.members.get(member.index) === member) this.members.delete(member.index)
    const lost = [...member.running]
    member.running.clear()
    for (const entry of lost) {
      this.forget(entry)
      this.settle(entry, (w) => w.fail(new Error(`The work in the background ended: ${reason}`)))
    }
    this.begin()
  }

  private readonly begin = (): void => {
    this.dealing = false
    for (const entry of this.waiting.filter((e) => e.job.rank === 'now'))
      this.start(entry, this.member(this.homeOf(entry) ?? this.leastBusy()))
    // threads are started in their order, so that one job alone starts one thread alone
    for (let i = 0; i < this.size && this.waiting.length > 0; i++) {
      const member = this.member(i)
      const next = this.nextFor(member)
      if (next) this.start(next, member)
    }
  }

  private homeOf({ job: { home } }: Entry): number | null {
    return home === undefined ? null : home % this.size
  }

  /** What runs beside may be urgent; the others go one by one. What was given up ends soon. */
  private static isBusy(member: Member | undefined): boolean {
    return member !== undefined && [...member.running].some((e) => e.job.rank !== 'now' && e.waiters.size > 0)
  }

  private nextFor(member: Member): Entry | undefined {
    if ([...member.running].some((e) => e.job.rank !== 'now')) return undefined
    const rank = (e: Entry) => ORDER[e.job.rank ?? 'lit']
    const least = Math.min(...this.waiting.map(rank))
    const first = this.waiting.filter((e) => rank(e) === least)
    return (
      first.find((e) => this.homeOf(e) === member.index) ??
      first.find((e) => this.homeOf(e) === null) ??
      first.findLast((e) => Crew.isBusy(this.members.get(this.homeOf(e) ?? 0)))
    )
  }

  private leastBusy(): number {
    let best = 0
    for (let i = 1; i < this.size; i++) if (this.load(i) < this.load(best)) best = i
    return best
  }

  /** What is looked at weighs more than all that may run elsewhere. */
  private load(index: number): number {
    const running = [...(this.members.get(index)?.running ?? [])]
    return running.reduce((sum, { job }) => sum + (job.rank === 'lit' ? LIT_WEIGHT : 1), 0)
  }

  private start(entry: Entry, member: Member): void {
    this.waiting.splice(this.waiting.indexOf(entry), 1)
    entry.thread = member
    member.running.add(entry)
    const { job, ticket } = entry
    const tell = job.onPart
      ? (part: unknown) => {
          for (const waiter of entry.waiters) waiter.onPart?.(part)
        }
      : null
    member.thread
      .run(ticket, job.task, job.args, tell)
      .then(
        (answer) => {
          if (!member.running.has(entry)) return
          this.forget(entry)
          if (job.keep !== undefined && entry.key !== null) this.keepAnswer(job.task, entry.key, answer, job.keep)
          this.settle(entry, (w) => w.done(answer))
        },
        (error: unknown) => {
          if (!member.running.has(entry)) return
          this.forget(entry)
          this.settle(entry, (w) => w.fail(error instanceof Error ? error : new Error(String(error))))
        },
      )
      .finally(() => {
        member.running.delete(entry)
        this.begin()
      })
  }

  private forget(entry: Entry): void {
    if (entry.key !== null && this.shared.get(entry.key) === entry) this.shared.delete(entry.key)
  }

  private settle(entry: Entry, how: (waiter: Waiter) => void): void {
    const all = [...entry.waiters]
    entry.waiters.clear()
    all.forEach(how)
  }

  private keepAnswer(task: string, key: string, answer: unknown, most: number): void {
    const kept = this.kept.get(task) ?? new Map<string, unknown>()
    this.kept.set(task, kept.set(key, answer))
    if (kept.size > most) kept.delete([...kept.keys()][0])
  }
}
