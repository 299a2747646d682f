import { mkdir, mkdtemp, readdir, rm, utimes, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { Database } from '../database/database'
import { recordingKind } from '@fulgor/core/api'
import { newRecording, recordingId } from '@fulgor/core/recording'
import { emptyBin, DocumentStore } from '../documents/store'
import { assets } from '../database/schema'
import { AssetStore } from './store'
import { forgetRecordings, sweep } from './sweep'

it('clears half files and files that nobody names, but neither what is named nor what has just come', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'fulgor-sweep-'))
  const database = await Database.open(`file:${join(folder, 'fulgor.db')}`, join(process.cwd(), 'server/drizzle'))
  const store = new AssetStore(join(folder, 'assets'))
  expect(await sweep(database, store)).toBe(0)
  const kept = await store.put(new Uint8Array([1]))
  const nameless = await store.put(new Uint8Array([2]))
  const young = await store.put(new Uint8Array([3]))
  const half = `${kept}.0a1b2c3d.part`
  await writeFile(join(folder, 'assets', kept.slice(0, 2), half), 'half')
  await mkdir(join(folder, 'assets', 'empty'), { recursive: true })
  const row = { name: 'a', kind: 'riff' as const, bytes: 1, sampleRate: 48_000, channels: 1, frames: 1, createdAt: 1 }
  await database.change(database.db.insert(assets).values({ hash: kept, ...row }))
  const old = new Date(Date.now() - 7_200_000)
  for (const name of [kept, nameless, half]) await utimes(join(folder, 'assets', name.slice(0, 2), name), old, old)
  expect(await sweep(database, store)).toBe(2)
  const left = (await readdir(join(folder, 'assets'), { recursive: true, withFileTypes: true }))
    .filter((e) => e.isFile())
    .map((e) => e.name)
  expect(left.sort()).toEqual([kept, young].sort())
  await database.close()
  await rm(folder, { recursive: true, force: true })
})

it('lets go of references and backings once their bin is emptied, of riffs and takes never', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'fulgor-sweep-'))
  const database = await Database.open(`file:${join(folder, 'fulgor.db')}`, join(process.cwd(), 'server/drizzle'))
  const kit = new DocumentStore(database, recordingKind)
  const row = { name: 'a', bytes: 1, sampleRate: 48_000, channels: 1, frames: 1, createdAt: 1 }
  const hashes = ['a', 'b', 'c', 'd'].map((letter) => letter.repeat(64))
  for (const [k, kind] of (['reference', 'backing', 'riff', 'take'] as const).entries()) {
    await database.change(database.db.insert(assets).values({ hash: hashes[k], kind, ...row }))
    if (kind !== 'take') await kit.create(newRecording(kind, 'a', hashes[k], 1), recordingId(hashes[k]))
  }
  const left = async () => (await database.db.select({ hash: assets.hash }).from(assets)).map(({ hash }) => hash).sort()
  for (const hash of hashes.slice(0, 3)) await kit.remove(recordingId(hash))
  await forgetRecordings(database)
  // what lies in the bin can come back
  expect(await left()).toEqual(hashes)
  await emptyBin(database, Date.now() + 31 * 86_400_000)
  await forgetRecordings(database)
  expect(await left()).toEqual(hashes.slice(2))
  await database.close()
  await rm(folder, { recursive: true, force: true })
})
