import { desc, eq } from 'drizzle-orm'
import express, { Router } from 'express'
import { readWav, WavError, type Wav } from '@fulgor/core/formats'
import type { Database } from '../database/database'
import { assets } from '../database/schema'
import { HttpError, notFound } from '../http/errors'
import { validated } from '../http/validate'
import { AssetHashDto, AssetKindDto, UploadDto } from './dto'
import type { AssetStore } from './store'

const MAX_UPLOAD = '64mb'
/** Longest riff or take, s. */
const MAX_SECONDS = 120

/** The player's own dry riffs, and takes of a device, as WAV. */
export function assetRoutes(database: Database, store: AssetStore): Router {
  const router = Router()
  router.get('/', async (request, response) => {
    const { kind = 'riff' } = await validated(AssetKindDto, { ...request.query })
    response.json(await database.db.select().from(assets).where(eq(assets.kind, kind)).orderBy(desc(assets.createdAt)))
  })
  router.post('/', express.raw({ type: () => true, limit: MAX_UPLOAD }), async (request, response) => {
    const { name, kind = 'riff' } = await validated(UploadDto, { ...request.query })
    const bytes = new Uint8Array(request.body as Buffer)
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
    await database.write(() => database.db.insert(assets).values(row).onConflictDoNothing())
    response.status(201).json(await database.db.query.assets.findFirst({ where: eq(assets.hash, hash) }))
  })
  router.get('/:hash', async (request, response) => {
    const { hash } = await validated(AssetHashDto, request.params)
    if (!(await database.db.query.assets.findFirst({ where: eq(assets.hash, hash) }))) throw notFound('This file')
    response.set({ 'Content-Type': 'audio/wav', 'Cache-Control': 'private, max-age=31536000, immutable' })
    response.sendFile(store.pathOf(hash), { dotfiles: 'allow' })
  })
  return router
}

function checkedWav(name: string, kind: string, bytes: Uint8Array): Wav {
  try {
    const wav = readWav(bytes)
    const seconds = wav.channels[0].length / wav.sampleRate
    if (seconds > MAX_SECONDS) throw new WavError(`it is ${Math.round(seconds)} s long; a ${kind} may last ${MAX_SECONDS} s.`)
    return wav
  } catch (error) {
    if (!(error instanceof WavError)) throw error
    throw new HttpError(422, `${name} was not taken: ${error.message}`, [{ field: 'file', reason: error.message }])
  }
}
