import { eq } from 'drizzle-orm'
import { recordingKind } from '@fulgor/core/api'
import type { demoBacking, demoReference } from '@fulgor/core/demo'
import { newRecording, recordingId, type RecordingUse } from '@fulgor/core/recording'
import type { Database } from '../database/database'
import { hasReached, reached } from '../database/milestones'
import { assets } from '../database/schema'
import { DocumentStore } from '../documents/store'
import { HttpError } from '../http/errors'
import type { AssetStore } from './store'

type Stored = Pick<typeof assets.$inferSelect, 'hash' | 'name' | 'frames' | 'sampleRate'>

const documentOf = ({ hash, name, frames, sampleRate }: Stored, use: RecordingUse) => newRecording(use, name, hash, frames / sampleRate)

/** Lays a stored file into the Kit; one that lies in the bin comes back, one that is there stays as it is. */
export function tellOf(database: Database): (file: Stored, use: RecordingUse) => Promise<void> {
  const kit = new DocumentStore(database, recordingKind)
  return async (file, use) => {
    const id = recordingId(file.hash)
    const there = (await kit.has(id)) ? await kit.get(id).catch(() => kit.restore(id)) : await kit.create(documentOf(file, use), id)
    if (there.document.use !== use)
      throw new HttpError(409, `${file.name} is in the Kit as a ${there.document.use} already, as “${there.name}”.`)
  }
}

/** Lays the riffs of before the Kit had any into it. */
export async function tellOfRiffs(database: Database): Promise<void> {
  if (await hasReached(database, 'riffs in the Kit')) return
  const kit = new DocumentStore(database, recordingKind)
  for (const file of await database.db.select().from(assets).where(eq(assets.kind, 'riff')))
    if (!(await kit.has(recordingId(file.hash)))) await kit.create(documentOf(file, 'riff'), recordingId(file.hash))
  await reached(database, 'riffs in the Kit')
}

/** Lays the demo's band into the Kit. @returns its id there */
export async function layBacking(database: Database, store: AssetStore, band: ReturnType<typeof demoBacking>): Promise<string> {
  const { name, bytes, seconds, sampleRate, bpm, bars } = band
  const hash = await store.put(bytes)
  const frames = Math.round(seconds * sampleRate)
  const row = { hash, name, kind: 'backing' as const, bytes: bytes.length, sampleRate, channels: 1, frames, createdAt: Date.now() }
  await database.change(database.db.insert(assets).values(row).onConflictDoNothing())
  const kit = new DocumentStore(database, recordingKind)
  const id = recordingId(hash)
  if (!(await kit.has(id))) await kit.create({ ...newRecording('backing', name, hash, frames / sampleRate), tempo: bpm, bars }, id)
  return id
}

/** Lays the demo's reference into the Kit. @returns its id there */
export async function layReference(database: Database, store: AssetStore, mix: ReturnType<typeof demoReference>): Promise<string> {
  const { name, bytes, frames, sampleRate, marks } = mix
  const hash = await store.put(bytes)
  const row = { hash, name, kind: 'reference' as const, bytes: bytes.length, sampleRate, channels: 2, frames, createdAt: Date.now() }
  await database.change(database.db.insert(assets).values(row).onConflictDoNothing())
  const kit = new DocumentStore(database, recordingKind)
  const id = recordingId(hash)
  if (!(await kit.has(id))) await kit.create({ ...newRecording('reference', name, hash, frames / sampleRate), marks }, id)
  return id
}
