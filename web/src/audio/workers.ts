import { wrap, type Remote } from 'comlink'
import type { RenderWorker } from './render.worker'

/** Rate at which everything is rendered and played. */
export const SAMPLE_RATE = 48_000

const pool: Remote<RenderWorker>[] = []

/** Two render workers, started when first used. */
export function renderWorkers(): readonly Remote<RenderWorker>[] {
  while (pool.length < 2) pool.push(wrap<RenderWorker>(new Worker(new URL('./render.worker.ts', import.meta.url), { type: 'module' })))
  return pool
}
