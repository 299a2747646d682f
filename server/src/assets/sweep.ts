import type { Database } from '../database/database'
import { assets, responses } from '../database/schema'
import type { AssetStore } from './store'

/** ms after which a file that nobody names, or that is half written, is left over and not just on its way. */
const LEFT_OVER_MS = 3_600_000

/** Clears what a kill left behind: half files, and files without a row. */
export async function sweep({ db }: Database, store: AssetStore, now = Date.now()): Promise<number> {
  const named = new Set<string>()
  for (const { hash } of await db.select({ hash: assets.hash }).from(assets)) named.add(hash)
  for (const { hash } of await db.select({ hash: responses.hash }).from(responses)) named.add(hash)
  let cleared = 0
  for await (const file of store.files()) {
    if (now - file.modifiedAt < LEFT_OVER_MS || named.has(file.name)) continue
    await store.discard(file.name)
    cleared++
  }
  return cleared
}
