import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { recordingKind } from '@fulgor/core/api'
import { Database } from '../database/database'
import { assets } from '../database/schema'
import { DocumentStore } from '../documents/store'
import { tellOfRiffs } from './recordings'

it('lays riffs of before the Kit had any into it, once', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'fulgor-recordings-'))
  const database = await Database.open(`file:${join(folder, 'fulgor.db')}`, join(process.cwd(), 'server/drizzle'))
  const row = { bytes: 1, sampleRate: 44_100, channels: 1, frames: 88_200, createdAt: 1 }
  await database.change(database.db.insert(assets).values({ hash: 'a'.repeat(64), name: 'Old riff', kind: 'riff', ...row }))
  await database.change(database.db.insert(assets).values({ hash: 'b'.repeat(64), name: 'A take', kind: 'take', ...row }))
  await tellOfRiffs(database)
  const kit = new DocumentStore(database, recordingKind)
  expect((await kit.get('a'.repeat(40))).document).toMatchObject({ name: 'Old riff', use: 'riff', seconds: 2 })
  expect(await kit.has('b'.repeat(40))).toBe(false)
  // what the player deleted since does not come back
  await kit.remove('a'.repeat(40))
  await tellOfRiffs(database)
  await expect(kit.get('a'.repeat(40))).rejects.toThrow()
  await database.close()
  await rm(folder, { recursive: true, force: true })
})
