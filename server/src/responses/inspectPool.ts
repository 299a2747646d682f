import { Worker } from 'node:worker_threads'
import type { Inspected } from './inspectWorker'

interface Waiting {
  done(results: Inspected[]): void
  fail(error: Error): void
}

/** Reads files on a thread of its own, so that the server answers meanwhile. */
export class InspectPool {
  private thread: { readonly worker: Worker; readonly waiting: Map<number, Waiting> } | null = null
  private last = 0

  inspect(files: readonly Uint8Array[]): Promise<Inspected[]> {
    const { worker, waiting } = this.running()
    const id = ++this.last
    return new Promise((done, fail) => {
      waiting.set(id, { done, fail })
      worker.postMessage({ id, files })
    })
  }

  private running() {
    if (this.thread) return this.thread
    const worker = startThread()
    const waiting = new Map<number, Waiting>()
    const thread = { worker, waiting }
    worker.unref()
    worker.on('message', ({ id, results, failure }: { id: number; results?: Inspected[]; failure?: string }) => {
      const own = waiting.get(id)
      waiting.delete(id)
      if (results) own?.done(results)
      else own?.fail(new Error(failure))
    })
    // only its own jobs: the next thread may be at work already when this one's end is told
    const lost = (error: Error) => {
      if (this.thread === thread) this.thread = null
      for (const own of waiting.values()) own.fail(error)
      waiting.clear()
    }
    worker.on('error', lost)
    worker.on('exit', () => lost(new Error('The reading thread ended.')))
    this.thread = thread
    return thread
  }
}

/** The build puts the thread's code beside main.js; in development tsx reads it as it stands. */
function startThread(): Worker {
  if (!import.meta.url.endsWith('.ts')) return new Worker(new URL('./inspectWorker.js', import.meta.url))
  const source = new URL('./inspectWorker.ts', import.meta.url).href
  return new Worker(`import('tsx/esm/api').then(({ register }) => { register(); return import(${JSON.stringify(source)}) })`, {
    eval: true,
  })
}
