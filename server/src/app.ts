import compression from 'compression'
import express, { type Express } from 'express'
import { join } from 'node:path'
import { presetSchema } from '@fulgor/core/preset'
import { assetRoutes } from './assets/routes'
import type { AssetStore } from './assets/store'
import type { Database } from './database/database'
import { errorHandler, HttpError } from './http/errors'
import { sameOriginOnly, securityHeaders } from './http/guard'
import { openApi } from './meta/openapi'
import { presetRoutes } from './presets/routes'
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
  app.use('/api/assets', assetRoutes(database, assets))
  app.use(express.json({ limit: '1mb' }))
  app.use('/api/responses', responseRoutes(database, assets))
  app.use('/api/presets', presetRoutes(database))
  app.get('/api/health', (_request, response) => void response.json({ ok: true }))
  app.get('/api/schema/preset.json', (_request, response) => void response.json(presetSchema()))
  app.get('/api/openapi.json', (_request, response) => void response.json(openApi()))
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
