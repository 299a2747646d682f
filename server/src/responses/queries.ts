import { asc, eq, inArray, isNull, sql } from 'drizzle-orm'
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
  const [first, ...others] = rows.map((row) =>
    database.db
      .insert(responses)
      .values(row)
      .onConflictDoUpdate({ target: responses.hash, set: { deletedAt: null, name: row.name, path: row.path } }),
  )
  await database.change(first, ...others)
}

/** Responses in pieces that fit a statement. */
const piecesOf = (hashes: readonly string[]): string[][] =>
  Array.from({ length: Math.ceil(hashes.length / CHUNK) }, (_, i) => hashes.slice(i * CHUNK, (i + 1) * CHUNK))

async function setAll(database: Database, hashes: readonly string[], values: Partial<Row>): Promise<void> {
  const [first, ...others] = piecesOf(hashes).map((piece) =>
    database.db.update(responses).set(values).where(inArray(responses.hash, piece)),
  )
  await database.change(first, ...others)
}

export const setFavourite = (database: Database, hashes: readonly string[], favourite: boolean): Promise<void> =>
  setAll(database, hashes, { favourite })

/** Adds or removes one tag, by the database itself: what others did to the tags meanwhile stays. */
export async function changeTag(
  database: Database,
  hashes: readonly string[],
  { add, remove }: { add?: string; remove?: string },
): Promise<void> {
  const kept = sql`select value, key from json_each(${responses.tags}) where value not in (${remove ?? add ?? ''}, ${add ?? remove ?? ''})`
  const added = add === undefined ? kept : sql`${kept} union all select ${add}, 1e9`
  const tags = sql`(select json_group_array(value) from (select value from (${added}) order by key))`
  const [first, ...others] = piecesOf(hashes).map((piece) =>
    database.db.update(responses).set({ tags }).where(inArray(responses.hash, piece)),
  )
  await database.change(first, ...others)
}

/** Takes responses off the list; their files stay, for presets that use them and for the way back. */
export const setDeleted = (database: Database, hashes: readonly string[], deleted: boolean): Promise<void> =>
  setAll(database, hashes, { deletedAt: deleted ? Date.now() : null })

function toAsset({ deletedAt: _deletedAt, ...row }: Row): ResponseAsset {
  return row
}
