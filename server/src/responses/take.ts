import type { UploadedResponse } from '@fulgor/core/api'
import type { AssetStore } from '../assets/store'
import type { Database } from '../database/database'
import type { InspectPool } from './inspectPool'
import { findTwins, setDeleted, storeResponses, type NewResponse } from './queries'

interface Incoming {
  readonly bytes: Uint8Array
  readonly path: string
}

/** Takes what can be read; the rest is named with its reason, and equal samples are taken once. */
export async function take(
  database: Database,
  store: AssetStore,
  pool: Pick<InspectPool, 'inspect'>,
  files: readonly Incoming[],
): Promise<UploadedResponse[]> {
  const inspected = await pool.inspect(files.map((f) => f.bytes))
  const known = await findTwins(
    database,
    inspected.flatMap((i) => ('report' in i ? [i.report.fingerprint] : [])),
  )
  const here = new Map([...known].filter(([, row]) => row.deletedAt === null).map(([print, row]) => [print, row.name]))
  const back = new Map([...known].filter(([, row]) => row.deletedAt !== null).map(([print, row]) => [print, row.hash]))
  const fresh: NewResponse[] = []
  const returning: string[] = []
  const results: UploadedResponse[] = []
  for (const [i, { path, bytes }] of files.entries()) {
    const found = inspected[i]
    const { folder, name } = splitPath(path)
    if ('reason' in found) {
      results.push({ path, outcome: 'refused', reason: found.reason })
      continue
    }
    const { report } = found
    const twin = here.get(report.fingerprint)
    if (twin !== undefined) {
      results.push({ path, outcome: 'duplicate', of: twin })
      continue
    }
    here.set(report.fingerprint, name)
    const old = back.get(report.fingerprint)
    if (old !== undefined) {
      returning.push(old)
      results.push({ path, outcome: 'taken', hash: old })
      continue
    }
    const hash = await store.put(bytes)
    fresh.push({ hash, name, path: folder, bytes: bytes.length, report })
    results.push({ path, outcome: 'taken', hash })
  }
  await storeResponses(database, fresh)
  if (returning.length > 0) await setDeleted(database, returning, false)
  return results
}

function splitPath(path: string): { folder: string; name: string } {
  const parts = path.split(/[\\/]+/).filter(Boolean)
  return { folder: parts.slice(0, -1).join('/'), name: (parts.at(-1) ?? path).replace(/\.(wave?|aiff?|aifc|flac)$/i, '') || path }
}
