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

/** Makes a thread of what it can do. */
export function threadOf(tasks: Tasks): Thread {
  const wishes = new Map<number, 'stop' | 'cancel'>()
  const underWay = new Set<number>()
  return {
    async run(ticket, name, args, tell) {
      underWay.add(ticket)
      try {
        return await tasks[name](
          {
            async breathe() {
              await messagesHeard()
              if (wishes.get(ticket) === 'cancel') throw new Cancelled()
            },
            tell: (part) => tell?.(part),
            get stopping() {
              return wishes.has(ticket)
            },
          },
          // the page’s crew has checked them against the task’s own
          ...(args as never[]),
        )
      } finally {
        underWay.delete(ticket)
        wishes.delete(ticket)
      }
    },
    stop(ticket) {
      if (underWay.has(ticket) && !wishes.has(ticket)) wishes.set(ticket, 'stop')
    },
    cancel(ticket) {
      if (underWay.has(ticket)) wishes.set(ticket, 'cancel')
    },
  }
}
