import {
  type DocumentKind,
  besideField,
  documentField,
  documentListField,
  storedField,
  updateAnswerField,
  versionField,
  versionWholeField,
} from '@fulgor/core/api'
import { list } from '@fulgor/core/document'
import type { Database } from '../database/database'
import { route, SENT, type Section } from '../http/route'
import { BesideDto, documentDtos, DocumentIdDto, ListDto, VersionDto } from './dto'
import { DocumentStore } from './store'

/** What every kind of document can be asked and told. */
export function documentRoutes(database: Database, kind: DocumentKind): Section {
  const store = new DocumentStore(database, kind)
  const one = kind.kind
  const { Create, Update } = documentDtos(kind)
  const document = documentField(kind)
  const stored = storedField(kind.listed, document)
  return {
    prefix: `/api/${kind.path}`,
    routes: [
      route({
        method: 'get',
        path: '/',
        summary: `List and search ${kind.path}`,
        query: ListDto,
        status: 200,
        says: 'A page, the number of all that were found, all tags of the shelf, and what asks for the next page.',
        answer: documentListField(kind.listed),
        handle: async ({ query, response }) => {
          response.type('json').send(await store.listText(query))
          return SENT
        },
      }),
      route({
        method: 'post',
        path: '/',
        summary: `Put a ${one} on the shelf`,
        body: Create,
        status: 201,
        says: `The stored ${one}.`,
        answer: stored,
        handle: ({ body }) => store.create(body.document),
      }),
      route({
        method: 'get',
        path: '/:id',
        summary: `A ${one} with its last saved version`,
        params: DocumentIdDto,
        status: 200,
        says: `The ${one}.`,
        answer: stored,
        handle: ({ params }) => store.get(params.id),
      }),
      route({
        method: 'put',
        path: '/:id',
        summary: 'Store an edit; refused when somebody else wrote since baseRevision',
        params: DocumentIdDto,
        body: Update,
        status: 200,
        says: 'The new revision.',
        answer: updateAnswerField,
        also: { 409: `Changed elsewhere; carries the stored ${one}.` },
        handle: ({ params, body }) => store.update(params.id, body),
      }),
      route({
        method: 'delete',
        path: '/:id',
        summary: `Take a ${one} off the shelf`,
        params: DocumentIdDto,
        status: 204,
        says: 'Done; restore brings it back.',
        handle: ({ params }) => store.remove(params.id),
      }),
      route({
        method: 'post',
        path: '/:id/restore',
        summary: `Bring a deleted ${one} back`,
        params: DocumentIdDto,
        status: 200,
        says: `The ${one}.`,
        answer: stored,
        handle: ({ params }) => store.restore(params.id),
      }),
      route({
        method: 'get',
        path: '/:id/beside',
        summary: `The ${one} so many places further in the order of names`,
        params: DocumentIdDto,
        query: BesideDto,
        status: 200,
        says: 'Its id.',
        answer: besideField,
        handle: ({ params, query }) => store.beside(params.id, query.step),
      }),
      route({
        method: 'get',
        path: '/:id/versions',
        summary: 'Versions, newest first',
        params: DocumentIdDto,
        status: 200,
        says: 'The versions.',
        answer: list(versionField, 10_000),
        handle: ({ params }) => store.versions(params.id),
      }),
      route({
        method: 'get',
        path: '/:id/versions/:number',
        summary: 'One version whole',
        params: VersionDto,
        status: 200,
        says: 'The version.',
        answer: versionWholeField(document),
        handle: ({ params }) => store.version(params.id, params.number),
      }),
    ],
  }
}
