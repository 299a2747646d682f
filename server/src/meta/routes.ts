import { flag, record } from '@fulgor/core/document'
import type { DocumentKind } from '@fulgor/core/api'
import { route, type Section } from '../http/route'
import { openApi } from './openapi'

/** What the server tells of itself; `others` are the routes that it describes besides its own. */
export function metaRoutes(others: readonly Section[], kinds: readonly DocumentKind[]): Section {
  const own: Section = {
    prefix: '/api',
    routes: [
      route({
        method: 'get',
        path: '/health',
        summary: 'Is the server up',
        status: 200,
        says: 'It is.',
        answer: record({ ok: flag() }),
        handle: () => Promise.resolve({ ok: true }),
      }),
      ...kinds.map((kind) =>
        route({
          method: 'get',
          path: `/schema/${kind.kind}.json`,
          summary: `JSON Schema of a ${kind.kind}`,
          status: 200,
          says: 'The schema.',
          handle: () => Promise.resolve(kind.schema()),
        }),
      ),
      route({
        method: 'get',
        path: '/openapi.json',
        summary: 'This description',
        status: 200,
        says: 'OpenAPI 3.1.',
        handle: () => Promise.resolve(openApi([...others, own], kinds)),
      }),
    ],
  }
  return own
}
