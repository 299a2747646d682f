import { createHash, randomBytes } from 'node:crypto'
import type { Readable } from 'node:stream'
import { mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises'
import { dirname, join } from 'node:path'

/** A file that came in and is not kept yet. */
export interface Draft {
  readonly hash: string
  readonly bytes: number
  /** First bytes of it. */
  readonly head: Uint8Array
  readonly path: string
  keep(): Promise<void>
  discard(): Promise<void>
}

/** What came in is longer than what is taken. */
export class TooLarge extends Error {}

/** Bytes of a draft that are handed on to be looked at. */
const HEAD = 1 << 20

/** Files by the SHA-256 of their content: written whole or not at all, never changed. */
export class AssetStore {
  constructor(private readonly folder: string) {}

  pathOf(hash: string): string {
    return join(this.folder, hash.slice(0, 2), hash)
  }

  async put(bytes: Uint8Array): Promise<string> {
    const hash = createHash('sha256').update(bytes).digest('hex')
    const path = this.pathOf(hash)
    if (await exists(path)) return hash
    await mkdir(dirname(path), { recursive: true })
    const draft = `${path}.${randomBytes(4).toString('hex')}.part`
    try {
      const file = await open(draft, 'wx')
      try {
        await file.writeFile(bytes)
        await file.sync()
      } finally {
        await file.close()
      }
      await rename(draft, path)
    } catch (error) {
      await rm(draft, { force: true })
      throw error
    }
    return hash
  }

  /**
   * Takes what flows in, without ever holding the whole.
   * @param most bytes @throws TooLarge beyond them
   */
  async receive(from: Readable, most: number): Promise<Draft> {
    // what breaks off before it is read is told where it is read
    from.on('error', () => undefined)
    const draft = this.pathOf(`${randomBytes(16).toString('hex')}.part`)
    await mkdir(dirname(draft), { recursive: true })
    const discard = () => rm(draft, { force: true })
    const hash = createHash('sha256')
    const head: Buffer[] = []
    let bytes = 0
    try {
      const file = await open(draft, 'wx')
      try {
        for await (const piece of from as AsyncIterable<Buffer>) {
          if (bytes < HEAD) head.push(piece.subarray(0, HEAD - bytes))
          bytes += piece.length
          if (bytes > most) throw new TooLarge()
          hash.update(piece)
          await file.writeFile(piece)
        }
        await file.sync()
      } finally {
        await file.close()
      }
    } catch (error) {
      await discard()
      throw error
    }
    const name = hash.digest('hex')
    const keep = async () => {
      const path = this.pathOf(name)
      if (await exists(path)) return discard()
      await mkdir(dirname(path), { recursive: true })
      await rename(draft, path)
    }
    return { hash: name, bytes, head: Buffer.concat(head), path: draft, keep, discard }
  }

  /** Everything that lies in the store, half files among them. */
  async *files(): AsyncGenerator<{ readonly name: string; readonly modifiedAt: number }> {
    for (const entry of await readdir(this.folder, { recursive: true, withFileTypes: true }).catch(() => []))
      if (entry.isFile()) yield { name: entry.name, modifiedAt: (await stat(join(entry.parentPath, entry.name))).mtimeMs }
  }

  async discard(name: string): Promise<void> {
    await rm(this.pathOf(name), { force: true })
  }
}

const exists = (path: string): Promise<boolean> =>
  stat(path).then(
    () => true,
    () => false,
  )
