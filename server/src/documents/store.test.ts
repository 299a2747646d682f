import { copyFile, cp, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createClient } from '@libsql/client'
import { drizzle } from 'drizzle-orm/libsql'
import { migrate } from 'drizzle-orm/libsql/migrator'
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import type { PresetList } from '@fulgor/core/api'
import { DocumentError } from '@fulgor/core/document'
import { blankPreset, readPreset, type Preset } from '@fulgor/core/preset'
import { Database } from '../database/database'
import { HttpError } from '../http/errors'
import { ListDto } from './dto'
import { presetKind } from '@fulgor/core/api'
import { DocumentStore, emptyBin } from './store'

const DAY = 86_400_000
const MIGRATIONS = join(process.cwd(), 'server/drizzle')
const query = (part: Partial<ListDto>) => Object.assign(new ListDto(), part)

let folder: string
let file: string
let database: Database
let store: DocumentStore<Preset>
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'fulgor-store-'))
})
afterAll(() => rm(folder, { recursive: true, force: true }))
beforeEach(async () => {
  file = join(folder, `${Math.random().toString(36).slice(2)}.db`)
  database = await Database.open(`file:${file}`, MIGRATIONS)
  store = new DocumentStore(database, presetKind)
})
afterEach(() => database.close())

const named = (name: string, tags: readonly string[] = [], notes = ''): Preset => ({ ...blankPreset(name), tags, notes })
const list = async (part: Partial<ListDto>, of = store) => JSON.parse(await of.listText(query(part))) as PresetList
const names = async (part: Partial<ListDto>, of = store) => (await list(part, of)).items.map((p) => p.name)

describe('the bin', () => {
  it('keeps a document for thirty days, with its versions, and not longer', async () => {
    await store.create(named('Old'), 'old')
    await store.create(named('Here'), 'here')
    await store.remove('old')
    await emptyBin(database, Date.now() + 29.9 * DAY)
    expect(await names({ deleted: 'true' })).toEqual(['Old'])
    await emptyBin(database, Date.now() + 30.1 * DAY)
    expect(await names({ deleted: 'true' })).toEqual([])
    expect(await names({})).toEqual(['Here'])
    expect(await database.db.query.documentVersions.findMany({ columns: { number: true } })).toHaveLength(1)
  })
})

describe('a list', () => {
  it('is paged by its own order, whatever is written between two pages', async () => {
    for (const n of [3, 1, 2, 5, 4]) await store.create(named(`n${n}`), `id${n}`)
    const first = await list({ sort: 'name', limit: 2 })
    expect([first.items.map((p) => p.name), first.total]).toEqual([['n1', 'n2'], 5])
    await store.create(named('n0'), 'id0')
    await store.remove('id2')
    expect(await names({ sort: 'name', limit: 2, after: first.next ?? '' })).toEqual(['n3', 'n4'])
    const end = await list({ sort: 'name', limit: 2, after: (await list({ sort: 'name', limit: 3 })).next ?? '' })
    expect([end.items.map((p) => p.name), end.next]).toEqual([['n4', 'n5'], null])
  })

  it('comes newest first, page by page, also where two were written in the same millisecond', async () => {
    for (let n = 0; n < 9; n++) await store.create(named(`n${n}`), `id${n}`)
    const seen: string[] = []
    let after: string | null = ''
    while (after !== null) {
      const page: PresetList = await list({ limit: 2, ...(after ? { after } : {}) })
      seen.push(...page.items.map((p) => p.name))
      after = page.next
    }
    expect([...seen].sort()).toEqual(Array.from({ length: 9 }, (_, n) => `n${n}`))
  })

  it('finds every word anywhere in name, tags and notes, short ones and quotes too', async () => {
    await store.create(named('Salt Road lead', ['pit'], 'the "big" one, 5 Ω'), 'a')
    await store.create(named('Harbour clean', ['home'], 'big and dry'), 'b')
    expect(await names({ search: 'ROAD ead' })).toEqual(['Salt Road lead'])
    expect(await names({ search: 'big' })).toHaveLength(2)
    expect(await names({ search: '"big"' })).toEqual(['Salt Road lead'])
    expect(await names({ search: 'big ho' })).toEqual(['Harbour clean'])
    expect(await names({ search: 'ω' })).toEqual(['Salt Road lead'])
    expect(await names({ search: 'OR NOT' })).toEqual([])
    await store.update('b', { document: named('Harbour crunch', ['home']), baseRevision: 1, save: true })
    expect(await names({ search: 'clean' })).toEqual([])
    expect(await names({ search: 'crunch' })).toEqual(['Harbour crunch'])
  })

  it('counts the tags of what is on the shelf', async () => {
    const tags = async () => Object.fromEntries((await list({})).tags.map(({ tag, count }) => [tag, count]))
    await store.create(named('A', ['pit', 'lead', 'pit']), 'a')
    await store.create(named('B', ['pit']), 'b')
    expect(await tags()).toEqual({ lead: 1, pit: 2 })
    await store.remove('a')
    expect(await tags()).toEqual({ pit: 1 })
    await store.restore('a')
    await store.update('b', { document: named('B', ['home']), baseRevision: 1, save: false })
    expect(await tags()).toEqual({ home: 1, lead: 1, pit: 1 })
    expect(await names({ tag: 'home' })).toEqual(['B'])
    await store.remove('a')
    await emptyBin(database, Date.now() + 31 * DAY)
    expect(await tags()).toEqual({ home: 1 })
  })
})

describe('a kind', () => {
  it('may tell nothing more in a list than every document does', async () => {
    const plain = new DocumentStore<Preset>(database, { ...presetKind, kind: 'plain', listed: {}, list: () => ({}) })
    await plain.create(named('Plain'), 'p')
    await store.create(named('Other'), 'p')
    expect(await list({}, plain)).toMatchObject({ items: [{ id: 'p', name: 'Plain', revision: 1 }], total: 1, next: null })
    expect(Object.keys((await list({}, plain)).items[0]).sort()).toEqual([
      'createdAt',
      'deletedAt',
      'id',
      'name',
      'revision',
      'tags',
      'updatedAt',
    ])
  })

  it('says so where what is stored comes from a newer program', async () => {
    await store.create(named('New'), 'n')
    const newer = new DocumentStore<Preset>(database, {
      ...presetKind,
      version: 0,
      read: () => {
        throw new DocumentError('version', 'is 9.')
      },
    })
    const error: unknown = await newer.get('n').catch((e: unknown) => e)
    expect(error).toMatchObject({ status: 422, message: 'What is stored of this preset cannot be read by this Fulgor: version: is 9.' })
  })
})

describe('two servers on one file', () => {
  it('lose none of forty writes at once, and refuse those that come too late', async () => {
    const other = await Database.open(`file:${file}`, MIGRATIONS)
    const beside = new DocumentStore(other, presetKind)
    await store.create(named('0'), 'shared')
    const add = async (own: DocumentStore<Preset>, writer: string): Promise<number> => {
      for (let refused = 0; ; refused++) {
        const { document, revision } = await own.get('shared')
        try {
          await own.update('shared', { document: named(String(Number(document.name) + 1)), baseRevision: revision, save: false, writer })
          return refused
        } catch (error) {
          if (!(error instanceof HttpError && error.status === 409)) throw error
        }
      }
    }
    const refusals = await Promise.all(Array.from({ length: 40 }, (_, i) => add(i % 2 ? store : beside, `w${i}`)))
    expect((await store.get('shared')).document.name).toBe('40')
    expect((await store.get('shared')).revision).toBe(41)
    expect(refusals.reduce((a, b) => a + b)).toBeGreaterThan(0)
    // forty writers in one tab each: a version of each that was taken, none of one that was refused
    const numbers = (await store.versions('shared')).map((v) => v.number)
    expect(numbers).toEqual(Array.from({ length: 41 }, (_, i) => 41 - i))
    const texts = await Promise.all(numbers.map(async (n) => (await store.version('shared', n)).document.name))
    expect(texts).toEqual(numbers.map((n) => String(n - 1)))
    await other.close()
  })
})

describe('the file itself', () => {
  it('holds everything once the server has stopped, or has been quiet for a while', async () => {
    await store.create(named('Kept'), 'kept')
    await database.checkpoint()
    for (const copy of ['quiet.db', 'stopped.db']) {
      if (copy === 'stopped.db') {
        await store.create(named('Later'), 'later')
        await database.close()
      }
      // the file alone, without its log
      await copyFile(file, join(folder, copy))
      const opened = await Database.open(`file:${join(folder, copy)}`, MIGRATIONS)
      const there = await names({ sort: 'name' }, new DocumentStore(opened, presetKind))
      expect(there).toEqual(copy === 'quiet.db' ? ['Kept'] : ['Kept', 'Later'])
      await opened.close()
    }
    database = await Database.open(`file:${file}`, MIGRATIONS)
  })
})

describe('a database of the first days', () => {
  it('opens with its presets in today’s form, which the server takes back', async () => {
    const document = await readFile(join(process.cwd(), 'core/src/preset/migrations/fixtures/version1-first.json'), 'utf8')
    const old = join(folder, 'first.db')
    const first = join(folder, 'first-migrations')
    await cp(MIGRATIONS, first, { recursive: true })
    const journal = JSON.parse(await readFile(join(first, 'meta/_journal.json'), 'utf8')) as { entries: unknown[] }
    await writeFile(join(first, 'meta/_journal.json'), JSON.stringify({ ...journal, entries: journal.entries.slice(0, 1) }))
    const client = createClient({ url: `file:${old}` })
    await migrate(drizzle(client), { migrationsFolder: first })
    const row = ['p1', 'Salt Road, pit main', '["pit"]', 'salt road, pit main pit', 96, 8, 6, document, 3, 1, 2, null]
    await client.execute({ sql: `insert into presets values (${row.map(() => '?').join()})`, args: row })
    await client.execute({ sql: 'insert into versions values (?, 1, ?, ?, ?, ?, 3, 2)', args: ['p1', 'saved', 'first', 'w', document] })
    client.close()

    const opened = await Database.open(`file:${old}`, MIGRATIONS)
    const presets = new DocumentStore(opened, presetKind)
    expect(await list({ search: 'salt pit', tag: 'pit' }, presets)).toMatchObject({
      items: [{ id: 'p1', tempo: 96, stageCount: 8, revision: 3 }],
      tags: [{ tag: 'pit', count: 1 }],
    })
    const stored = await presets.get('p1')
    expect(stored.document).toEqual(readPreset(JSON.parse(document)))
    expect(stored.saved?.document).toEqual(stored.document)
    expect((await presets.version('p1', 1)).document).toEqual(stored.document)
    await presets.update('p1', { document: stored.document, baseRevision: 3, save: true })
    expect((await presets.get('p1')).revision).toBe(4)
    await opened.close()
  })
})
