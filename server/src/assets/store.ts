import { createHash, randomBytes } from 'node:crypto'
import { mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises'
import { dirname, join } from 'node:path'

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
