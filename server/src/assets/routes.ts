import { desc, eq } from 'drizzle-orm'
import express from 'express'
import { assetField } from '@fulgor/core/api'
import { list } from '@fulgor/core/document'
import { readWav, WavError, type Wav } from '@fulgor/core/formats'
import type { Database } from '../database/database'
import { assets } from '../database/schema'
import { HttpError, notFound } from '../http/errors'
import { route, SENT, type Section } from '../http/route'
import { AssetHashDto, AssetKindDto, UploadDto } from './dto'
import { tellOf } from './recordings'
import type { AssetStore } from './store'

const MAX_UPLOAD = '64mb'
/** Longest recording of each kind, s. */
const MAX_SECONDS = { riff: 120, take: 120, backing: 600 }

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
        upload: {
          parse: express.raw({ type: () => true, limit: MAX_UPLOAD }),
          content: { 'audio/wav': { schema: { type: 'string', format: 'binary' } } },
        },
        status: 201,
        says: 'The stored recording.',
        answer: assetField,
        handle: async ({ query: { name, kind = 'riff' }, body }) => {
          // a request without a body comes as an empty object
          const bytes = Buffer.isBuffer(body) ? new Uint8Array(body) : new Uint8Array()
          const wav = checkedWav(name, kind, bytes)
          const hash = await store.put(bytes)
          const row = {
            hash,
            name: name.replace(/\.wav$/i, ''),
            kind,
            bytes: bytes.length,
            sampleRate: wav.sampleRate,
            channels: wav.channels.length,
            frames: wav.channels[0].length,
            createdAt: Date.now(),
          }
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

function checkedWav(name: string, kind: keyof typeof MAX_SECONDS, bytes: Uint8Array): Wav {
  try {
    const wav = readWav(bytes)
    const seconds = wav.channels[0].length / wav.sampleRate
    if (seconds > MAX_SECONDS[kind]) throw new WavError(`it is ${Math.round(seconds)} s long; a ${kind} may last ${MAX_SECONDS[kind]} s.`)
    return wav
  } catch (error) {
    if (!(error instanceof WavError)) throw error
    throw new HttpError(422, `${name} was not taken: ${error.message}`, [{ field: 'file', reason: error.message }])
  }
}
