import { wrap, type Remote } from 'comlink'
import type { CabinetWorker } from './cabinet.worker'
import type { ImportWorker } from './import.worker'
import type { RenderWorker } from './render.worker'

export { SAMPLE_RATE } from './rate'

const pool: Remote<RenderWorker>[] = []
let cabinet: Remote<CabinetWorker> | null = null
let importer: Remote<ImportWorker> | null = null

/** Two render workers, started when first used. */
export function renderWorkers(): readonly Remote<RenderWorker>[] {
  while (pool.length < 2) pool.push(wrap<RenderWorker>(new Worker(new URL('./render.worker.ts', import.meta.url), { type: 'module' })))
  return pool
}

/** Computes blends: apart from the render workers, so that a dragged microphone never waits for a measurement. */
export function cabinetWorker(): Remote<CabinetWorker> {
  cabinet ??= wrap<CabinetWorker>(new Worker(new URL('./cabinet.worker.ts', import.meta.url), { type: 'module' }))
  return cabinet
}

/** Reads and sends files that were dropped. */
export function importWorker(): Remote<ImportWorker> {
  importer ??= wrap<ImportWorker>(new Worker(new URL('./import.worker.ts', import.meta.url), { type: 'module' }))
  return importer
}
