import { Router } from 'express'
import multer from 'multer'
import type { AssetStore } from '../assets/store'
import type { Database } from '../database/database'
import { HttpError, notFound } from '../http/errors'
import { validated } from '../http/validate'
import { ChangeResponsesDto, ChooseResponsesDto, MOST_FILES, ResponseHashDto, UploadResponsesDto } from './dto'
import { InspectPool } from './inspectPool'
import { changeTag, findResponse, listResponses, setDeleted, setFavourite } from './queries'
import { take } from './take'

/** Largest file; 10 s of stereo float at 192 kHz are 15 MB. */
const MAX_BYTES = 16e6

/** The player's own impulse responses. */
export function responseRoutes(database: Database, store: AssetStore, pool = new InspectPool()): Router {
  const router = Router()
  const upload = multer({
    storage: multer.memoryStorage(),
    limits: { files: MOST_FILES, fileSize: MAX_BYTES, fields: 4, fieldSize: 200_000 },
  })

  router.get('/', async (_request, response) => void response.json(await listResponses(database)))

  router.post('/', upload.array('files', MOST_FILES), async (request, response) => {
    const { paths } = await validated(UploadResponsesDto, { ...(request.body as object) })
    const files = request.files as Express.Multer.File[]
    if (files.length !== paths.length)
      throw new HttpError(400, `paths: names ${paths.length} files, ${files.length} came.`, [
        { field: 'paths', reason: 'must name each file.' },
      ])
    response.status(201).json(await take(database, store, pool, files.map((f, i) => ({ bytes: new Uint8Array(f.buffer), path: paths[i] })))) // prettier-ignore
  })

  router.patch('/', async (request, response) => {
    const { hashes, favourite, addTag, removeTag } = await validated(ChangeResponsesDto, request.body)
    if (favourite !== undefined) await setFavourite(database, hashes, favourite)
    if (addTag !== undefined || removeTag !== undefined) await changeTag(database, hashes, { add: addTag, remove: removeTag })
    response.status(204).end()
  })

  router.post('/remove', async (request, response) => {
    await setDeleted(database, (await validated(ChooseResponsesDto, request.body)).hashes, true)
    response.status(204).end()
  })

  router.post('/restore', async (request, response) => {
    await setDeleted(database, (await validated(ChooseResponsesDto, request.body)).hashes, false)
    response.status(204).end()
  })

  router.get('/:hash', async (request, response) => {
    const { hash } = await validated(ResponseHashDto, request.params)
    if (!(await findResponse(database, hash))) throw notFound('This impulse response')
    response.set({ 'Content-Type': 'application/octet-stream', 'Cache-Control': 'private, max-age=31536000, immutable' })
    response.sendFile(store.pathOf(hash), { dotfiles: 'allow' })
  })
  return router
}
