import { Cancelled, type Tasks, type Thread } from './tasks'

/** Waits until messages that have come meanwhile were heard. */
const messagesHeard = (): Promise<void> =>
  new Promise((done) => {
    const { port1, port2 } = new MessageChannel()
    port1.onmessage = () => {
      port1.close()
      done()
    }
    port2.postMessage(0)
  })

/** What runs in a thread. */
export class Runs {
  private readonly now = new Set<Promise<unknown>>()

  add<R>(run: Promise<R>): Promise<R> {
    this.now.add(run)
    const ends = () => void this.now.delete(run)
    run.then(ends, ends)
    return run
  }

  /** Ends when all has ended that runs now. */
  async rest(): Promise<void> {
    await Promise.allSettled([...this.now])
  }
}

/** Makes a thread of what it can do. @param runs takes note of what it does */
export function threadOf(tasks: Tasks, runs = new Runs()): Thread {
  const wishes = new Map<number, 'stop' | 'cancel'>()
  const underWay = new Set<number>()
  const run: Thread['run'] = async (ticket, name, args, tell) => {
    underWay.add(ticket)
    let heard: unknown
    try {
      const answer = await tasks[name](
        {
          async breathe() {
            await messagesHeard()
            if (wishes.get(ticket) === 'cancel') throw new Cancelled()
          },
          tell(part) {
            heard = tell?.(part)
          },
          get stopping() {
            return wishes.has(ticket)
          },
        },
        // the page’s crew has checked them against the task’s own
        ...(args as never[]),
      )
      // parts travel beside the answer, which may overtake them: nobody hears a part of what is answered
      await Promise.allSettled([heard])
      return answer
    } finally {
      underWay.delete(ticket)
      wishes.delete(ticket)
    }
  }
  return {
    run: (...call) => runs.add(run(...call)),
    stop(ticket) {
      if (underWay.has(ticket) && !wishes.has(ticket)) wishes.set(ticket, 'stop')
    },
    cancel(ticket) {
      if (underWay.has(ticket)) wishes.set(ticket, 'cancel')
    },
  }
}
