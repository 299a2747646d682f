import { asc, eq, inArray, isNull } from 'drizzle-orm'
import type { ResponseAsset } from '@fulgor/core/api'
import type { ResponseReport } from '@fulgor/core/cabinet'
import type { Database } from '../database/database'
import { responses } from '../database/schema'

type Row = typeof responses.$inferSelect

const CHUNK = 500

/** Everything in the list, in the order of its names. */
export async function listResponses({ db }: Database): Promise<ResponseAsset[]> {
  const rows = await db.select().from(responses).where(isNull(responses.deletedAt)).orderBy(asc(responses.path), asc(responses.name))
  return rows.map(toAsset)
}

export async function findResponse({ db }: Database, hash: string): Promise<ResponseAsset | null> {
  const row = await db.query.responses.findFirst({ where: eq(responses.hash, hash) })
  return row ? toAsset(row) : null
}

/** Responses that hold the same samples as one of these, whether in the list or taken off it. */
export async function findTwins({ db }: Database, fingerprints: readonly string[]): Promise<Map<string, Row>> {
  const rows = await db
    .select()
    .from(responses)
    .where(inArray(responses.fingerprint, [...fingerprints]))
  return new Map(rows.map((row) => [row.fingerprint, row]))
}

export interface NewResponse {
  readonly hash: string
  readonly name: string
  readonly path: string
  readonly bytes: number
  readonly report: ResponseReport
}

/** Puts responses into the list, all or none. One that was taken off comes back under its new name. */
export async function storeResponses(database: Database, found: readonly NewResponse[]): Promise<void> {
  if (found.length === 0) return
  const now = Date.now()
  const rows = found.map(({ hash, name, path, bytes, report }) => ({
    hash,
    name,
    path,
    tags: path.split('/').filter(Boolean).slice(-3),
    bytes,
    ...report,
    createdAt: now,
  }))
  await database.write(() =>
    database.db.transaction(async (tx) => {
      for (const row of rows)
        await tx
          .insert(responses)
          .values(row)
          .onConflictDoUpdate({ target: responses.hash, set: { deletedAt: null, name: row.name, path: row.path } })
    }),
  )
}

/** Runs a change over many responses, in pieces that fit a statement. */
async function inPieces(hashes: readonly string[], work: (piece: string[]) => Promise<unknown>): Promise<void> {
  for (let at = 0; at < hashes.length; at += CHUNK) await work(hashes.slice(at, at + CHUNK))
}

export function setFavourite(database: Database, hashes: readonly string[], favourite: boolean): Promise<void> {
  return database.write(() =>
    inPieces(hashes, (piece) => database.db.update(responses).set({ favourite }).where(inArray(responses.hash, piece))),
  )
}

/** Adds or removes one tag. */
export function changeTag(database: Database, hashes: readonly string[], change: { add?: string; remove?: string }): Promise<void> {
  return database.write(() =>
    inPieces(hashes, async (piece) => {
      const rows = await database.db
        .select({ hash: responses.hash, tags: responses.tags })
        .from(responses)
        .where(inArray(responses.hash, piece))
      for (const { hash, tags } of rows) {
        const kept = tags.filter((tag) => tag !== change.remove && tag !== change.add)
        const next = change.add === undefined ? kept : [...kept, change.add]
        await database.db.update(responses).set({ tags: next }).where(eq(responses.hash, hash))
      }
    }),
  )
}

/** Takes responses off the list; their files stay, for presets that use them and for the way back. */
export function setDeleted(database: Database, hashes: readonly string[], deleted: boolean): Promise<void> {
  const deletedAt = deleted ? Date.now() : null
  return database.write(() =>
    inPieces(hashes, (piece) => database.db.update(responses).set({ deletedAt }).where(inArray(responses.hash, piece))),
  )
}

function toAsset({ deletedAt: _deletedAt, ...row }: Row): ResponseAsset {
  return row
}
