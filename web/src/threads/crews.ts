import { proxy, wrap } from 'comlink'
import type { CabinetTasks } from './cabinet.worker'
import type { ImportTasks } from './import.worker'
import type { RenderTasks } from './render.worker'
import { Crew } from '../background/crew'
import { introduce } from '../background/exchange'
import type { Thread } from '../background/tasks'

/** A thread in a worker of its own. */
function hired(worker: Worker, died: (reason: string) => void): Thread {
  const thread = wrap<Thread>(worker)
  worker.onerror = ({ message }) => {
    worker.terminate()
    died(message || 'it could not be loaded.')
  }
  return {
    run: (ticket, name, args, tell) => thread.run(ticket, name, args, tell && proxy(tell)),
    stop: (ticket) => void thread.stop(ticket),
    cancel: (ticket) => void thread.cancel(ticket),
  }
}

const rendering = new Set<Worker>()
const PAGE = `fulgor ${performance.timeOrigin} ${Math.random()}`

/** Renders and measures; each knows what the other one has made. */
export const renderers = new Crew<RenderTasks>((died) => {
  const worker = new Worker(new URL('./render.worker.ts', import.meta.url), { type: 'module' })
  introduce(worker, [...rendering], PAGE)
  rendering.add(worker)
  return hired(worker, (reason) => {
    rendering.delete(worker)
    died(reason)
  })
}, 2)

/** Computes blends: apart from the renderers, so that a dragged microphone never waits for a measurement. */
export const cabinetMaker = new Crew<CabinetTasks>(
  (died) => hired(new Worker(new URL('./cabinet.worker.ts', import.meta.url), { type: 'module' }), died),
  1,
)

/** Reads and sends files that were dropped. */
export const importer = new Crew<ImportTasks>(
  (died) => hired(new Worker(new URL('./import.worker.ts', import.meta.url), { type: 'module' }), died),
  1,
)

/** Plays a night through: one thread, in which what sounded rings on into what comes next. */
export const rehearser = new Crew<RenderTasks>(
  (died) => hired(new Worker(new URL('./render.worker.ts', import.meta.url), { type: 'module' }), died),
  1,
)
