import { Worker } from 'node:worker_threads'
import type { Inspected } from './inspectWorker'

interface Waiting {
  done(results: Inspected[]): void
  fail(error: Error): void
}

/** Reads files on a thread of its own, so that the server answers meanwhile. */
export class InspectPool {
  private worker: Worker | null = null
  private readonly waiting = new Map<number, Waiting>()
  private last = 0

  inspect(files: readonly Uint8Array[]): Promise<Inspected[]> {
    const worker = this.running()
    const id = ++this.last
    return new Promise((done, fail) => {
      this.waiting.set(id, { done, fail })
      worker.postMessage({ id, files })
    })
  }

  private running(): Worker {
    if (this.worker) return this.worker
    const worker = startThread()
    worker.unref()
    worker.on('message', ({ id, results, failure }: { id: number; results?: Inspected[]; failure?: string }) => {
      const waiting = this.waiting.get(id)
      this.waiting.delete(id)
      if (results) waiting?.done(results)
      else waiting?.fail(new Error(failure))
    })
    const lost = (error: Error) => {
      this.worker = null
      for (const waiting of this.waiting.values()) waiting.fail(error)
      this.waiting.clear()
    }
    worker.on('error', lost)
    worker.on('exit', () => lost(new Error('The reading thread ended.')))
    this.worker = worker
    return worker
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
