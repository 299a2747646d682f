import { and, asc, desc, eq, isNull, sql, type SQL } from 'drizzle-orm'
import type { Database } from '../database/database'
import { documents } from '../database/schema'
import { HttpError } from '../http/errors'
import type { ListDto } from './dto'
import type { DocumentKind } from '@fulgor/core/api'

const DEFAULT_PAGE = 200
/** Letters that a word needs to be found by the index: it holds all runs of three. */
const INDEXED = 3

/** What a list tells of a document, as JSON text: put together as text, which is ten times as quick as SQLite's functions for JSON. */
const LINE = sql.raw(
  [
    `'{"id":"' || id || '","name":' || json_quote(name) || ',"tags":' || tags || ',"revision":' || revision`,
    `',"createdAt":' || created_at || ',"updatedAt":' || updated_at || ',"deletedAt":' || coalesce(deleted_at, 'null')`,
    // the kind's own, without its brace
    `iif(listed = '{}', '}', ',' || substr(listed, 2))`,
  ].join(' || '),
)

/**
 * A page of a kind's documents, with their number and all tags of the shelf, as the JSON text of the answer: SQLite writes it in one row, as
 * building a hundred objects to turn them into text again takes longer than all the rest.
 */
export async function listDocuments({ db }: Database, { kind }: Pick<DocumentKind, 'kind'>, query: ListDto): Promise<string> {
  const binned = query.deleted === 'true'
  const limit = query.limit ?? DEFAULT_PAGE
  const byName = query.sort === 'name'
  const sorted = sql.raw(byName ? 'name_key' : binned ? 'deleted_at' : 'updated_at')
  const [beyond, way] = byName ? [sql.raw('>'), sql.raw('asc')] : [sql.raw('<'), sql.raw('desc')]
  const conditions = [
    sql`kind = ${kind}`,
    binned ? sql`deleted_at is not null` : sql`deleted_at is null`,
    ...searched(query.search ?? ''),
    ...(query.uses === undefined ? [] : [sql`exists (select 1 from json_each(listed, '$.uses') where value = ${query.uses})`]),
    ...(query.tag === undefined ? [] : [sql`key in (select key from document_tags where kind = ${kind} and tag = ${query.tag})`]),
  ]
  const found = sql`select key from documents where ${sql.join(conditions, sql` and `)}`
  const behind = query.after === undefined ? null : place(query.after)
  const here = behind ? sql`and (${sorted}, id) ${beyond} (${behind[0]}, ${behind[1]})` : sql``
  // what was searched for is found once; the shelf itself is read along its index, as far as the page goes
  const narrow = conditions.length > 2
  const from = narrow ? sql`documents where key in found ${here}` : sql`documents where ${sql.join(conditions, sql` and `)} ${here}`
  const { items, next, total, tags } = await db.get<Answer>(sql`
    with found as ${sql.raw(narrow ? 'materialized' : 'not materialized')} (${found}),
    page as materialized (select ${LINE} as line, ${sorted} as at, id from ${from} order by at ${way}, id ${way} limit ${limit + 1})
    select
      (select '[' || coalesce(group_concat(line, ','), '') || ']' from (select line from page order by at ${way}, id ${way} limit ${limit})) as items,
      (select json_array(at, id) from page where (select count(*) from page) > ${limit} order by at ${way}, id ${way} limit 1 offset ${limit - 1}) as next,
      (select count(*) from found) as total,
      (select json_group_array(json_object('tag', tag, 'count', count)) from (select tag, count from tag_counts where kind = ${kind} order by tag)) as tags`)
  return `{"items":${items},"total":${total},"tags":${tags},"next":${JSON.stringify(next)}}`
}

interface Answer {
  readonly items: string
  readonly next: string | null
  readonly total: number
  readonly tags: string
}

/** Every word must be somewhere in name, tags or text. */
function searched(search: string): SQL[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean)
  // the index has runs of three letters; a shorter word is looked for in every text, and then the others are as well
  if (words.some((word) => Array.from(word).length < INDEXED)) return words.map((word) => sql`instr(search_text, ${word}) > 0`)
  const match = words.map((word) => `"${word.replaceAll('"', '""')}"`).join(' AND ')
  return words.length === 0 ? [] : [sql`key in (select rowid from document_texts where document_texts match ${match})`]
}

function place(after: string): readonly [string | number, string] {
  const wrong = new HttpError(400, 'after: must be what the page before gave as “next”.', [
    { field: 'after', reason: 'must be what the page before gave as “next”.' },
  ])
  let value: unknown
  try {
    value = JSON.parse(after)
  } catch {
    throw wrong
  }
  if (!Array.isArray(value)) throw wrong
  const [by, id] = value as unknown[]
  if ((typeof by !== 'string' && typeof by !== 'number') || typeof id !== 'string') throw wrong
  return [by, id]
}

/** The document so many places further in the order of names, round and round. */
export async function besideDocument(
  { db }: Database,
  { kind }: Pick<DocumentKind, 'kind'>,
  here: { id: string; nameKey: string },
  step: number,
) {
  const shelf = and(eq(documents.kind, kind), isNull(documents.deletedAt))
  const order = step < 0 ? [desc(documents.nameKey), desc(documents.id)] : [asc(documents.nameKey), asc(documents.id)]
  const beyond = sql`(${documents.nameKey}, ${documents.id}) ${sql.raw(step < 0 ? '<' : '>')} (${here.nameKey}, ${here.id})`
  const at = async (where: SQL | undefined, offset: number) =>
    (
      await db
        .select({ id: documents.id })
        .from(documents)
        .where(and(shelf, where))
        .orderBy(...order)
        .limit(1)
        .offset(offset)
    ).at(0)
  const there = await at(beyond, Math.abs(step) - 1)
  if (there) return there
  const [{ left }] = await db
    .select({ left: sql<number>`count(*)` })
    .from(documents)
    .where(and(shelf, beyond))
  return (await at(undefined, Math.abs(step) - 1 - left)) ?? { id: here.id }
}
