import { eq, inArray } from 'drizzle-orm'
import { recordingKind } from '@fulgor/core/api'
import { recordingId } from '@fulgor/core/recording'
import type { Database } from '../database/database'
import { assets, documents, responses } from '../database/schema'
import type { AssetStore } from './store'

/** ms after which a file that nobody names, or that is half written, is left over and not just on its way. */
const LEFT_OVER_MS = 3_600_000

/** Lets go of backings and references that have left the Kit and its bin: their files are then nobody's. A riff may still be played. */
export async function forgetRecordings(database: Database): Promise<void> {
  const { db } = database
  const kit = await db.select({ id: documents.id }).from(documents).where(eq(documents.kind, recordingKind.kind))
  const there = new Set(kit.map(({ id }) => id))
  const files = await db
    .select({ hash: assets.hash })
    .from(assets)
    .where(inArray(assets.kind, ['backing', 'reference']))
  const gone = files.map(({ hash }) => hash).filter((hash) => !there.has(recordingId(hash)))
  for (const hash of gone) await database.change(db.delete(assets).where(eq(assets.hash, hash)))
}

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
