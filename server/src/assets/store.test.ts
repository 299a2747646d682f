import { mkdtemp, readdir, readFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { createHash } from 'node:crypto'
import { expect, it } from 'vitest'
import { AssetStore, TooLarge } from './store'

const folder = () => mkdtemp(join(tmpdir(), 'fulgor-'))
const filesIn = async (at: string) =>
  (await readdir(at, { recursive: true, withFileTypes: true })).filter((f) => f.isFile()).map((f) => f.name)
const flow = (...pieces: string[]) => Readable.from(pieces.map((p) => Buffer.from(p)))

it('takes what flows in, named by its content, once it is kept', async () => {
  const at = await folder()
  const store = new AssetStore(at)
  const draft = await store.receive(flow('one, ', 'two'), 100)
  expect([draft.hash, draft.bytes, Buffer.from(draft.head).toString()]).toEqual([
    createHash('sha256').update('one, two').digest('hex'),
    8,
    'one, two',
  ])
  await draft.keep()
  expect(await readFile(store.pathOf(draft.hash), 'utf8')).toBe('one, two')
  // the same again leaves one file
  await (await store.receive(flow('one, two'), 100)).keep()
  expect(await filesIn(at)).toEqual([draft.hash])
})

it('leaves nothing of what is too large, breaks off or is not kept', async () => {
  const at = await folder()
  const store = new AssetStore(at)
  await expect(store.receive(flow('123456', '7890'), 8)).rejects.toThrow(TooLarge)
  const broken = new Readable({ read: () => undefined })
  const waiting = store.receive(broken, 100)
  broken.push('half')
  broken.destroy(new Error('gone'))
  await expect(waiting).rejects.toThrow('gone')
  await (await store.receive(flow('no'), 100)).discard()
  expect(await filesIn(at)).toEqual([])
})
