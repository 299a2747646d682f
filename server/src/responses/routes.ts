import multer from 'multer'
import { responseAssetField } from '@fulgor/core/api'
import { list } from '@fulgor/core/document'
import type { AssetStore } from '../assets/store'
import type { Database } from '../database/database'
import { HttpError, notFound } from '../http/errors'
import { route, SENT, type Section } from '../http/route'
import { ChangeResponsesDto, ChooseResponsesDto, MOST_FILES, ResponseHashDto, UploadResponsesDto } from './dto'
import { InspectPool } from './inspectPool'
import { changeTag, findResponse, listResponses, setDeleted, setFavourite } from './queries'
import { take } from './take'

/** Largest file; 10 s of stereo float at 192 kHz are 15 MB. */
const MAX_BYTES = 16e6

/** The player's own impulse responses. */
export function responseRoutes(database: Database, store: AssetStore, pool = new InspectPool()): Section {
  const upload = multer({
    storage: multer.memoryStorage(),
    limits: { files: MOST_FILES, fileSize: MAX_BYTES, fields: 4, fieldSize: 200_000 },
  })
  return {
    prefix: '/api/responses',
    routes: [
      route({
        method: 'get',
        path: '/',
        summary: 'The player’s impulse responses with what was read of each',
        status: 200,
        says: 'All of them.',
        answer: list(responseAssetField, 1_000_000),
        handle: () => listResponses(database),
      }),
      route({
        method: 'post',
        path: '/',
        summary: 'Take impulse responses; what cannot be read is named with its reason, equal samples are taken once',
        body: UploadResponsesDto,
        upload: { parse: upload.array('files', MOST_FILES), content: UPLOAD },
        status: 201,
        says: 'What became of each file.',
        handle: ({ body: { paths }, files }) => {
          if (files.length !== paths.length)
            throw new HttpError(400, `paths: names ${paths.length} files, ${files.length} came.`, [
              { field: 'paths', reason: 'must name each file.' },
            ])
          return take(
            database,
            store,
            pool,
            files.map((f, i) => ({ bytes: new Uint8Array(f.buffer), path: paths[i] })),
          )
        },
      }),
      route({
        method: 'patch',
        path: '/',
        summary: 'Mark favourites, add or remove a tag',
        body: ChangeResponsesDto,
        status: 204,
        says: 'Done.',
        handle: async ({ body: { hashes, favourite, addTag, removeTag } }) => {
          if (favourite !== undefined) await setFavourite(database, hashes, favourite)
          if (addTag !== undefined || removeTag !== undefined) await changeTag(database, hashes, { add: addTag, remove: removeTag })
        },
      }),
      route({
        method: 'post',
        path: '/remove',
        summary: 'Take responses off the list',
        body: ChooseResponsesDto,
        status: 204,
        says: 'Done; restore brings them back.',
        handle: ({ body }) => setDeleted(database, body.hashes, true),
      }),
      route({
        method: 'post',
        path: '/restore',
        summary: 'Bring responses back',
        body: ChooseResponsesDto,
        status: 204,
        says: 'Done.',
        handle: ({ body }) => setDeleted(database, body.hashes, false),
      }),
      route({
        method: 'get',
        path: '/:hash',
        summary: 'An impulse response as it was given',
        params: ResponseHashDto,
        status: 200,
        says: 'The file.',
        handle: async ({ params: { hash }, response }) => {
          if (!(await findResponse(database, hash))) throw notFound('This impulse response')
          response.set({ 'Content-Type': 'application/octet-stream', 'Cache-Control': 'private, max-age=31536000, immutable' })
          response.sendFile(store.pathOf(hash), { dotfiles: 'allow' })
          return SENT
        },
      }),
    ],
  }
}

const UPLOAD = {
  'multipart/form-data': {
    schema: {
      type: 'object',
      required: ['paths', 'files'],
      properties: {
        paths: { type: 'string', description: 'JSON array: the path of each file, in their order.' },
        files: { type: 'array', items: { type: 'string', format: 'binary' } },
      },
    },
  },
}
