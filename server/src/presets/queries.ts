import { and, asc, desc, eq, getTableColumns, isNotNull, isNull, lt, sql, type SQL } from 'drizzle-orm'
import { randomBytes } from 'node:crypto'
import { BIN_DAYS } from '@fulgor/core/api'
import { readPreset, stagesOf, type Preset } from '@fulgor/core/preset'
import type { Database } from '../database/database'
import { presets, versions } from '../database/schema'
import { HttpError, notFound } from '../http/errors'
import type { ListPresetsDto } from './dto'

/** Autosaves within this time of an autosaved version replace it. */
const AUTO_VERSION_MS = 5 * 60_000
const AUTO_VERSIONS_KEPT = 100

const columns = (preset: Preset, document: string) => ({
  name: preset.name,
  tags: preset.tags,
  searchText: [preset.name, ...preset.tags, preset.notes].join(' ').toLowerCase(),
  tempo: preset.tempo,
  stageCount: stagesOf(preset.chain).length,
  snapshotCount: preset.snapshots.length,
  document,
})

type Row = typeof presets.$inferSelect

/** What a list shows: never the documents. */
const { document: _document, searchText: _searchText, ...listed } = getTableColumns(presets)

const summary = ({ document: _, searchText: __, ...row }: Row) => row
const full = (row: Row) => ({ ...summary(row), document: JSON.parse(row.document) as Preset })

async function requireRow({ db }: Database, id: string): Promise<Row> {
  const row = await db.query.presets.findFirst({ where: and(eq(presets.id, id), isNull(presets.deletedAt)) })
  if (!row) throw notFound(`Preset “${id}”`)
  return row
}

const BY_NAME = sql`lower(${presets.name})`

export async function listPresets({ db }: Database, query: ListPresetsDto) {
  const words = (query.search ?? '').toLowerCase().split(/\s+/).filter(Boolean)
  const binned = query.deleted === 'true'
  const conditions = [
    binned ? isNotNull(presets.deletedAt) : isNull(presets.deletedAt),
    ...words.map((word) => sql`instr(${presets.searchText}, ${word}) > 0`),
    ...(query.tag ? [sql`exists (select 1 from json_each(${presets.tags}) where value = ${query.tag})`] : []),
  ]
  const where = and(...conditions)
  const order = query.sort === 'name' ? [asc(BY_NAME)] : [desc(binned ? presets.deletedAt : presets.updatedAt)]
  const rows = await db
    .select(listed)
    .from(presets)
    .where(where)
    .orderBy(...order, asc(presets.id))
    .limit(query.limit ?? 200)
    .offset(query.offset ?? 0)
  const [{ total }] = await db
    .select({ total: sql<number>`count(*)` })
    .from(presets)
    .where(where)
  const tags = await db.all<{ tag: string; count: number }>(
    sql`select value as tag, count(*) as count from ${presets}, json_each(${presets.tags}) where ${presets.deletedAt} is null group by value order by value`,
  )
  return { presets: rows, total, tags }
}

/** The preset so many places further in the order of names, round and round. */
export async function besidePreset(database: Database, id: string, step: number): Promise<{ id: string }> {
  const { name } = await requireRow(database, id)
  const here = sql`(${BY_NAME}, ${presets.id})`
  const beyond = sql`${here} ${sql.raw(step < 0 ? '<' : '>')} (${name.toLowerCase()}, ${id})`
  const order = step < 0 ? [desc(BY_NAME), desc(presets.id)] : [asc(BY_NAME), asc(presets.id)]
  const at = (where: SQL | undefined, offset: number) =>
    database.db
      .select({ id: presets.id })
      .from(presets)
      .where(and(isNull(presets.deletedAt), where))
      .orderBy(...order)
      .limit(1)
      .offset(offset)
  const [there, [{ left }]] = await Promise.all([
    at(beyond, Math.abs(step) - 1),
    database.db
      .select({ left: sql<number>`count(*)` })
      .from(presets)
      .where(and(isNull(presets.deletedAt), beyond)),
  ])
  return there.at(0) ?? (await at(undefined, Math.abs(step) - 1 - left)).at(0) ?? { id }
}

export async function getPreset(database: Database, id: string) {
  const row = await requireRow(database, id)
  const saved = await database.db.query.versions.findFirst({
    where: and(eq(versions.presetId, id), eq(versions.kind, 'saved')),
    orderBy: desc(versions.number),
  })
  return {
    ...full(row),
    saved: saved ? { number: saved.number, createdAt: saved.createdAt, document: JSON.parse(saved.document) as Preset } : null,
  }
}

/** A new preset and its first saved version. */
export function createPreset(database: Database, document: unknown, id = randomBytes(9).toString('base64url')) {
  const preset = readPreset(document)
  const text = JSON.stringify(preset)
  const now = Date.now()
  return database.write(async () => {
    await database.db.batch([
      database.db.insert(presets).values({ id, ...columns(preset, text), revision: 1, createdAt: now, updatedAt: now }),
      database.db
        .insert(versions)
        .values({ presetId: id, number: 1, kind: 'saved', note: '', writer: '', document: text, revision: 1, createdAt: now }),
    ])
    return getPreset(database, id)
  })
}

/**
 * Stores an edit and keeps a version of it.
 * @throws HttpError 409 with the stored document when somebody else wrote since `baseRevision`
 */
export function updatePreset(
  database: Database,
  id: string,
  edit: { document: unknown; baseRevision: number; save: boolean; note?: string; writer?: string },
) {
  const preset = readPreset(edit.document)
  const text = JSON.stringify(preset)
  return database.write(async () => {
    const row = await requireRow(database, id)
    const last = await database.db.query.versions.findFirst({ where: eq(versions.presetId, id), orderBy: desc(versions.number) })
    // the same write again, because its answer was lost on the way
    const again = row.revision === edit.baseRevision + 1 && row.document === text && last !== undefined
    if (again && last.writer === (edit.writer ?? '') && (last.kind === 'saved') === edit.save)
      return { id, revision: row.revision, updatedAt: row.updatedAt, version: last.number }
    if (row.revision !== edit.baseRevision)
      throw new HttpError(409, 'This preset was changed elsewhere since you opened it; nothing was overwritten.', [], {
        current: full(row),
      })
    const now = Date.now()
    const revision = row.revision + 1
    const replaces = !edit.save && last?.kind === 'auto' && last.writer === (edit.writer ?? '') && now - last.createdAt < AUTO_VERSION_MS
    const number = replaces ? last.number : (last?.number ?? 0) + 1
    const version = {
      kind: edit.save ? ('saved' as const) : ('auto' as const),
      note: edit.note ?? '',
      writer: edit.writer ?? '',
      document: text,
      revision,
    }
    await database.db.batch([
      database.db
        .update(presets)
        .set({ ...columns(preset, text), revision, updatedAt: now })
        .where(eq(presets.id, id)),
      database.db
        .insert(versions)
        .values({ presetId: id, number, createdAt: now, ...version })
        .onConflictDoUpdate({ target: [versions.presetId, versions.number], set: version }),
      database.db
        .delete(versions)
        .where(and(eq(versions.presetId, id), eq(versions.kind, 'auto'), lt(versions.number, number - AUTO_VERSIONS_KEPT))),
    ])
    return { id, revision, updatedAt: now, version: number }
  })
}

export async function listVersions(database: Database, id: string) {
  await requireRow(database, id)
  return database.db
    .select({
      number: versions.number,
      kind: versions.kind,
      note: versions.note,
      revision: versions.revision,
      createdAt: versions.createdAt,
    })
    .from(versions)
    .where(eq(versions.presetId, id))
    .orderBy(desc(versions.number))
}

export async function getVersion(database: Database, id: string, number: number) {
  await requireRow(database, id)
  const row = await database.db.query.versions.findFirst({ where: and(eq(versions.presetId, id), eq(versions.number, number)) })
  if (!row) throw notFound(`Version ${number} of this preset`)
  return { ...row, document: JSON.parse(row.document) as Preset }
}

/** Puts a preset into the bin; {@link restorePreset} brings it back whole until {@link emptyBin} has taken it. */
export function deletePreset(database: Database, id: string) {
  return database.write(async () => {
    await requireRow(database, id)
    await database.db.update(presets).set({ deletedAt: Date.now() }).where(eq(presets.id, id))
  })
}

/** Takes away for good what has lain in the bin for longer than its days. */
export function emptyBin(database: Database, now = Date.now()) {
  return database.write(() => database.db.delete(presets).where(lt(presets.deletedAt, now - BIN_DAYS * 86_400_000)))
}

export function restorePreset(database: Database, id: string) {
  return database.write(async () => {
    const restored = await database.db
      .update(presets)
      .set({ deletedAt: null })
      .where(and(eq(presets.id, id), isNotNull(presets.deletedAt)))
      .returning({ id: presets.id })
    if (restored.length === 0) throw notFound(`Deleted preset “${id}”`)
    return getPreset(database, id)
  })
}

/** True when nothing was ever stored, not even something deleted since. */
export async function isUnused({ db }: Database): Promise<boolean> {
  return (await db.select({ id: presets.id }).from(presets).limit(1)).length === 0
}
