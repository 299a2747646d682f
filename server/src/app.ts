import compression from 'compression'
import express, { type Express } from 'express'
import { join } from 'node:path'
import { assetRoutes } from './assets/routes'
import type { AssetStore } from './assets/store'
import type { Database } from './database/database'
import { KINDS } from '@fulgor/core/api'
import { documentRoutes } from './documents/routes'
import { errorHandler, HttpError } from './http/errors'
import { sameOriginOnly, securityHeaders } from './http/guard'
import { routerOf } from './http/route'
import { metaRoutes } from './meta/routes'
import { responseRoutes } from './responses/routes'

export interface AppOptions {
  readonly database: Database
  readonly assets: AssetStore
  /** host:port names that this server answers for. */
  readonly hosts: ReadonlySet<string>
  /** Folder of the built web application, when this server serves it. */
  readonly web?: string
}

export function createApp({ database, assets, hosts, web }: AppOptions): Express {
  const app = express()
  app.disable('x-powered-by')
  app.use(securityHeaders, sameOriginOnly(hosts), compression())
  const recordings = assetRoutes(database, assets)
  const others = [responseRoutes(database, assets), ...KINDS.map((kind) => documentRoutes(database, kind))]
  app.use(recordings.prefix, routerOf(recordings))
  app.use(express.json({ limit: '1mb' }))
  for (const section of others) app.use(section.prefix, routerOf(section))
  const meta = metaRoutes([recordings, ...others], KINDS)
  app.use(meta.prefix, routerOf(meta))
  app.use('/api', (request) => {
    throw new HttpError(404, `There is no ${request.method} ${request.originalUrl}.`)
  })
  if (web !== undefined) {
    app.use('/assets', express.static(join(web, 'assets'), { immutable: true, maxAge: '1y' }))
    app.use(express.static(web, { maxAge: 0 }))
    app.get('/{*view}', (_request, response) => response.sendFile(join(web, 'index.html')))
  }
  app.use(errorHandler)
  return app
}
