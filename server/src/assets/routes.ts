import { desc, eq } from 'drizzle-orm'
import { readFile } from 'node:fs/promises'
import type { Readable } from 'node:stream'
import { assetField } from '@fulgor/core/api'
import { list } from '@fulgor/core/document'
import { readWav, WavError, wavLayout } from '@fulgor/core/formats'
import { LONGEST_S } from '@fulgor/core/recording'
import type { Database } from '../database/database'
import { assets } from '../database/schema'
import { HttpError, notFound } from '../http/errors'
import { route, SENT, type Section } from '../http/route'
import { AssetHashDto, AssetKindDto, UploadDto } from './dto'
import { tellOf } from './recordings'
import { TooLarge, type AssetStore, type Draft } from './store'

/** Longest recording of each kind, s. */
const MAX_SECONDS = { ...LONGEST_S, take: 120 }
type Kind = keyof typeof MAX_SECONDS
/** Most bytes of each kind. */
const MAX_BYTES: Record<Kind, number> = { riff: 64e6, take: 64e6, backing: 200e6, reference: 768e6 }

/** The player's own dry riffs, backings, and takes of a device, as WAV. Riffs and backings are told of in the Kit. */
export const assetRoutes = (database: Database, store: AssetStore): Section => {
  const tell = tellOf(database)
  return {
    prefix: '/api/assets',
    routes: [
      route({
        method: 'get',
        path: '/',
        summary: 'The player’s dry riffs, backings, or takes of a device',
        query: AssetKindDto,
        status: 200,
        says: 'The recordings.',
        answer: list(assetField, 100_000),
        handle: ({ query: { kind = 'riff' } }) =>
          database.db.select().from(assets).where(eq(assets.kind, kind)).orderBy(desc(assets.createdAt)),
      }),
      route({
        method: 'post',
        path: '/',
        summary: 'Keep a WAV',
        query: UploadDto,
        upload: { content: { 'audio/wav': { schema: { type: 'string', format: 'binary' } } } },
        status: 201,
        says: 'The stored recording.',
        answer: assetField,
        handle: async ({ query: { name, kind = 'riff' }, request }) => {
          const draft = await received(store, request, name, MAX_BYTES[kind])
          const { hash, bytes } = draft
          let read: { sampleRate: number; channels: number; frames: number }
          try {
            read = await checkedWav(name, kind, draft)
          } catch (error) {
            await draft.discard()
            throw error
          }
          await draft.keep()
          const row = { hash, name: name.replace(/\.wav$/i, ''), kind, bytes, ...read, createdAt: Date.now() }
          await database.change(database.db.insert(assets).values(row).onConflictDoNothing())
          if (kind !== 'take') await tell(row, kind)
          return database.db.query.assets.findFirst({ where: eq(assets.hash, hash) })
        },
      }),
      route({
        method: 'get',
        path: '/:hash',
        summary: 'A WAV as it was given',
        params: AssetHashDto,
        status: 200,
        says: 'The file.',
        handle: async ({ params: { hash }, response }) => {
          if (!(await database.db.query.assets.findFirst({ where: eq(assets.hash, hash) }))) throw notFound('This file')
          response.set({ 'Content-Type': 'audio/wav', 'Cache-Control': 'private, max-age=31536000, immutable' })
          response.sendFile(store.pathOf(hash), { dotfiles: 'allow' })
          return SENT
        },
      }),
    ],
  }
}

async function received(store: AssetStore, request: Readable, name: string, most: number): Promise<Draft> {
  try {
    return await store.receive(request, most)
  } catch (error) {
    if (error instanceof TooLarge) throw new HttpError(413, `${name} is larger than ${Math.round(most / 1e6)} MB; nothing was stored.`)
    throw error
  }
}

/** A reference is read stretch by stretch later on; what is shorter is read whole now, so that nothing damaged is kept. */
async function checkedWav(name: string, kind: Kind, { head, bytes, path }: Draft) {
  try {
    const { sampleRate, channels, frames } = wavLayout(head, bytes)
    const seconds = frames / sampleRate
    if (seconds > MAX_SECONDS[kind]) throw new WavError(`it is ${Math.round(seconds)} s long; a ${kind} may last ${MAX_SECONDS[kind]} s.`)
    if (kind !== 'reference') readWav(new Uint8Array(await readFile(path)))
    return { sampleRate, channels, frames }
  } catch (error) {
    if (!(error instanceof WavError)) throw error
    throw new HttpError(422, `${name} was not taken: ${error.message}`, [{ field: 'file', reason: error.message }])
  }
}
