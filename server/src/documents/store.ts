import { and, desc, eq, getTableColumns, isNotNull, isNull, lt, sql } from 'drizzle-orm'
import { randomBytes } from 'node:crypto'
import { BIN_DAYS } from '@fulgor/core/api'
import { DocumentError } from '@fulgor/core/document'
import type { Database } from '../database/database'
import { documents, documentVersions as versions } from '../database/schema'
import { HttpError, notFound } from '../http/errors'
import type { ListDto, UpdateDto } from './dto'
import type { DocumentKind } from '@fulgor/core/api'
import { besideDocument, listDocuments } from './listing'

/** Autosaves within this time of an autosaved version replace it. */
const AUTO_VERSION_MS = 5 * 60_000
const AUTO_VERSIONS_KEPT = 100
const DAY_MS = 86_400_000
const LISTS_KEPT = 200

type Row = typeof documents.$inferSelect & { readonly document: string }

/** Documents of one kind: revisions, conflicts, versions, bin. */
export class DocumentStore<T> {
  /** Lists that were asked for since the last write. */
  private listed = { mark: '', texts: new Map<string, string>() }

  constructor(
    private readonly database: Database,
    private readonly kind: DocumentKind<T>,
  ) {}

  /** A page of a list as the JSON text of its answer. */
  async listText(query: ListDto): Promise<string> {
    const mark = await this.database.mark()
    if (mark === null) return listDocuments(this.database, this.kind, query)
    if (mark !== this.listed.mark) this.listed = { mark, texts: new Map() }
    const { texts } = this.listed
    const key = JSON.stringify(query)
    const text = texts.get(key) ?? (await listDocuments(this.database, this.kind, query))
    if (texts.size < LISTS_KEPT) texts.set(key, text)
    return text
  }

  async beside(id: string, step: number) {
    return besideDocument(this.database, this.kind, await this.row(id), step)
  }

  async get(id: string) {
    const row = await this.row(id)
    const saved = await this.database.db.query.documentVersions.findFirst({
      where: and(eq(versions.key, row.key), eq(versions.kind, 'saved')),
      orderBy: desc(versions.number),
    })
    return {
      ...this.full(row),
      saved: saved ? { number: saved.number, createdAt: saved.createdAt, document: this.parse(saved.document) } : null,
    }
  }

  /** A new document and its first saved version. */
  async create(value: unknown, id = randomBytes(9).toString('base64url')) {
    const document = this.taken(value)
    const text = JSON.stringify(document)
    const now = Date.now()
    const { kind } = this.kind
    const { db } = this.database
    await this.database.change(
      db.insert(documents).values({ kind, id, ...this.columns(document), latest: 1, revision: 1, createdAt: now, updatedAt: now }),
      db.run(sql`insert into document_versions (key, number, kind, note, writer, revision, created_at, document)
        select key, 1, 'saved', '', '', 1, ${now}, ${text} from documents where kind = ${kind} and id = ${id}`),
    )
    return this.get(id)
  }

  /**
   * Stores an edit and keeps a version of it.
   * @throws HttpError 409 with the stored document when somebody else wrote since `baseRevision`
   */
  async update(id: string, { document: value, baseRevision, save, note = '', writer = '' }: UpdateDto) {
    const document = this.taken(value)
    const text = JSON.stringify(document)
    const { db } = this.database
    const row = await this.row(id)
    const last = await db.query.documentVersions.findFirst({ where: eq(versions.key, row.key), orderBy: desc(versions.number) })
    // the same write again, because its answer was lost on the way
    const again = row.revision === baseRevision + 1 && row.document === text && last?.writer === writer
    if (again && (last.kind === 'saved') === save) return { id, revision: row.revision, updatedAt: row.updatedAt, version: last.number }
    const now = Date.now()
    const revision = baseRevision + 1
    const replaces = !save && last?.kind === 'auto' && last.writer === writer && now - last.createdAt < AUTO_VERSION_MS
    const number = replaces ? last.number : (last?.number ?? 0) + 1
    const kind = save ? 'saved' : 'auto'
    const [written] = await this.database.change(
      db
        .update(documents)
        .set({ ...this.columns(document), latest: number, revision, updatedAt: now })
        .where(and(eq(documents.key, row.key), eq(documents.revision, baseRevision), isNull(documents.deletedAt)))
        .returning({ key: documents.key }),
      // only where the line above has written; what it builds on has not moved then, nor has the last version
      db.run(sql`insert into document_versions (key, number, kind, note, writer, revision, created_at, document)
        select ${row.key}, ${number}, ${kind}, ${note}, ${writer}, ${revision}, ${now}, ${text} where changes() = 1
        on conflict (key, number) do update set kind = excluded.kind, note = excluded.note, writer = excluded.writer,
          revision = excluded.revision, document = excluded.document`),
      db
        .delete(versions)
        .where(and(eq(versions.key, row.key), eq(versions.kind, 'auto'), lt(versions.number, number - AUTO_VERSIONS_KEPT))),
    )
    if (written.length > 0) return { id, revision, updatedAt: now, version: number }
    throw new HttpError(409, `This ${this.kind.kind} was changed elsewhere since you opened it; nothing was overwritten.`, [], {
      current: this.full(await this.row(id)),
    })
  }

  async versions(id: string) {
    const { key } = await this.row(id)
    const { number, kind, note, revision, createdAt } = versions
    return this.database.db
      .select({ number, kind, note, revision, createdAt })
      .from(versions)
      .where(eq(versions.key, key))
      .orderBy(desc(versions.number))
  }

  async version(id: string, number: number) {
    const { key } = await this.row(id)
    const found = await this.database.db.query.documentVersions.findFirst({
      where: and(eq(versions.key, key), eq(versions.number, number)),
    })
    if (!found) throw notFound(`Version ${number} of this ${this.kind.kind}`)
    const { kind, note, revision, createdAt } = found
    return { number, kind, note, revision, createdAt, document: this.parse(found.document) }
  }

  /** Puts a document into the bin; {@link restore} brings it back whole until {@link emptyBin} has taken it. */
  async remove(id: string): Promise<void> {
    const { key } = await this.row(id)
    await this.database.change(this.database.db.update(documents).set({ deletedAt: Date.now() }).where(eq(documents.key, key)))
  }

  async restore(id: string) {
    const [restored] = await this.database.change(
      this.database.db
        .update(documents)
        .set({ deletedAt: null })
        .where(and(this.named(id), isNotNull(documents.deletedAt)))
        .returning({ key: documents.key }),
    )
    if (restored.length === 0) throw notFound(`Deleted ${this.kind.kind} “${id}”`)
    return this.get(id)
  }

  /** True when nothing of the kind was ever stored, not even something deleted since. */
  async isUnused(): Promise<boolean> {
    const { db } = this.database
    return (await db.select({ key: documents.key }).from(documents).where(eq(documents.kind, this.kind.kind)).limit(1)).length === 0
  }

  /** True where it was ever stored, also where it lies in the bin. */
  async has(id: string): Promise<boolean> {
    return (await this.database.db.select({ key: documents.key }).from(documents).where(this.named(id)).limit(1)).length > 0
  }

  private named(id: string) {
    return and(eq(documents.kind, this.kind.kind), eq(documents.id, id))
  }

  private async row(id: string): Promise<Row> {
    const [row] = await this.database.db
      .select({ ...getTableColumns(documents), document: versions.document })
      .from(documents)
      .innerJoin(versions, and(eq(versions.key, documents.key), eq(versions.number, documents.latest)))
      .where(and(this.named(id), isNull(documents.deletedAt)))
    if ((row as Row | undefined) === undefined) throw notFound(`${this.kind.title} “${id}”`)
    return row
  }

  /** What came in, read. @throws HttpError 400 naming the field inside the document */
  private taken(value: unknown): T {
    try {
      return this.kind.read(value)
    } catch (error) {
      if (!(error instanceof DocumentError)) throw error
      const field = error.path === '' ? 'document' : `document.${error.path}`
      throw new HttpError(400, `${field}: ${error.reason}`, [{ field, reason: error.reason }])
    }
  }

  /** What is stored, in today's form: a document of an older version is migrated on its way out. */
  private parse(text: string): T {
    const value = JSON.parse(text) as { version?: unknown }
    if (value.version === this.kind.version) return value as T
    try {
      return this.kind.read(value)
    } catch (error) {
      if (!(error instanceof DocumentError)) throw error
      throw new HttpError(422, `What is stored of this ${this.kind.kind} cannot be read by this Fulgor: ${error.message}`)
    }
  }

  private columns(document: T) {
    const { name, tags, text: words, list } = this.kind
    return {
      name: name(document),
      nameKey: name(document).toLowerCase(),
      tags: tags(document),
      listed: list(document),
      searchText: [name(document), ...tags(document), words(document)].join(' ').toLowerCase(),
    }
  }

  private full({ key: _key, kind: _kind, nameKey: _nameKey, searchText: _searchText, latest: _latest, listed, document, ...row }: Row) {
    return { ...row, ...listed, document: this.parse(document) }
  }
}

/** Takes away for good what has lain in the bin for longer than its days, of every kind. */
export function emptyBin(database: Database, now = Date.now()) {
  return database.change(database.db.delete(documents).where(lt(documents.deletedAt, now - BIN_DAYS * DAY_MS)))
}
