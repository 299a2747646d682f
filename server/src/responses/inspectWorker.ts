import { parentPort } from 'node:worker_threads'
import { inspectResponse, type ResponseReport } from '@fulgor/core/cabinet'
import { readSound, SoundFileError } from '@fulgor/core/formats'

export type Inspected = { readonly report: ResponseReport } | { readonly reason: string }

/** Reads one file; what is wrong with it is told, not thrown. */
export function inspectBytes(bytes: Uint8Array): Inspected {
  try {
    return { report: inspectResponse(readSound(bytes)) }
  } catch (error) {
    if (error instanceof SoundFileError || error instanceof RangeError) return { reason: error.message }
    throw error
  }
}

parentPort?.on('message', ({ id, files }: { id: number; files: Uint8Array[] }) => {
  try {
    parentPort?.postMessage({ id, results: files.map(inspectBytes) })
  } catch (error) {
    parentPort?.postMessage({ id, failure: error instanceof Error ? error.message : String(error) })
  }
})
