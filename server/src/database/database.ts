import { createClient, type Client } from '@libsql/client'
import { drizzle, type LibSQLDatabase } from 'drizzle-orm/libsql'
import { migrate } from 'drizzle-orm/libsql/migrator'
import * as schema from './schema'

export type Db = LibSQLDatabase<typeof schema>

/** The database and the one queue that all writes go through: SQLite has a single writer, and the client pools connections. */
export class Database {
  private tail: Promise<unknown> = Promise.resolve()

  private constructor(
    readonly db: Db,
    private readonly client: Client,
  ) {}

  /**
   * Opens and migrates.
   * @param url `file:` path, or a libSQL server's address
   * @param maxPages for tests of a full disk: SQLite's own limit on the file's pages
   */
  static async open(url: string, migrations: string, options: { authToken?: string; maxPages?: number } = {}): Promise<Database> {
    const client = createClient({ url, authToken: options.authToken })
    if (url.startsWith('file:')) {
      await client.execute('PRAGMA journal_mode = WAL')
      await client.execute('PRAGMA synchronous = FULL')
      await client.execute('PRAGMA foreign_keys = ON')
    }
    const db = drizzle(client, { schema })
    await migrate(db, { migrationsFolder: migrations })
    if (options.maxPages) await client.execute(`PRAGMA max_page_count = ${options.maxPages}`)
    return new Database(db, client)
  }

  /** Runs one write after all earlier ones; what it reads cannot change before it writes. */
  write<T>(work: () => Promise<T>): Promise<T> {
    const result = this.tail.then(work, work)
    this.tail = result.catch(() => undefined)
    return result
  }

  /** Waits for queued writes, then closes. */
  async close(): Promise<void> {
    await this.tail
    this.client.close()
  }
}
