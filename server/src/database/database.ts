import { createClient, type Client } from '@libsql/client'
import { drizzle, type LibSQLDatabase } from 'drizzle-orm/libsql'
import { migrate } from 'drizzle-orm/libsql/migrator'
import { stat } from 'node:fs/promises'
import * as schema from './schema'

export type Db = LibSQLDatabase<typeof schema>
type Batch = Parameters<Db['batch']>[0]

/** ms that SQLite waits for another server's write on the same file. */
const BUSY_MS = 10_000

/**
 * The database. Every change is one batch of statements, which the client runs in one go: nothing, and no other server on the file, comes
 * between them. What a change builds on is asked for in its statements (`where revision = …`), not before.
 */
export class Database {
  /** Whether something was written since the last checkpoint, and how often in all. */
  private written = true
  private changes = 0

  private constructor(
    readonly db: Db,
    private readonly client: Client,
    /** Path of a local database; null where it lies on another server. */
    private readonly file: string | null,
  ) {}

  /**
   * Opens and migrates.
   * @param url `file:` path, or a libSQL server's address
   * @param maxPages for tests of a full disk: SQLite's own limit on the file's pages
   */
  static async open(url: string, migrations: string, options: { authToken?: string; maxPages?: number } = {}): Promise<Database> {
    const isFile = url.startsWith('file:')
    const client = createClient({ url, authToken: options.authToken, ...(isFile ? { timeout: BUSY_MS } : {}) })
    if (isFile) {
      await client.execute('PRAGMA journal_mode = WAL')
      await client.execute('PRAGMA synchronous = FULL')
      await client.execute('PRAGMA foreign_keys = ON')
    }
    const db = drizzle(client, { schema })
    await migrate(db, { migrationsFolder: migrations })
    if (options.maxPages) await client.execute(`PRAGMA max_page_count = ${options.maxPages}`)
    return new Database(db, client, isFile ? url.slice('file:'.length) : null)
  }

  /** One change, whole or not at all. @returns what each statement gives */
  async change<const Q extends Batch>(...statements: Q) {
    try {
      return await this.db.batch(statements)
    } finally {
      this.written = true
      this.changes++
    }
  }

  /**
   * Changes with every write, by this or another server: what was read under the same mark still holds.
   * @returns null where nobody can tell
   */
  async mark(): Promise<string | null> {
    if (this.file === null) return null
    const seen = async (path: string) => {
      const { mtimeNs, size } = await stat(path, { bigint: true })
      return `${mtimeNs} ${size}`
    }
    // every write goes to the log, and from time to time from there into the file; two quick ones may look alike, so own ones are counted
    return `${this.changes} ${await seen(`${this.file}-wal`).catch(() => '')} ${await seen(this.file)}`
  }

  /**
   * Brings what lies in the write-ahead log into the file itself, so that a copy of the file holds everything. Where another server keeps the
   * log busy, the next time does it.
   */
  async checkpoint(): Promise<void> {
    if (this.file === null || !this.written) return
    this.written = false
    try {
      const { rows } = await this.client.execute('PRAGMA wal_checkpoint(TRUNCATE)')
      if (rows[0].busy !== 0) this.written = true
    } catch {
      this.written = true
    }
  }

  async close(): Promise<void> {
    await this.checkpoint()
    this.client.close()
  }
}
