import type { RequestHandler } from 'express'
import helmet from 'helmet'
import { HttpError } from './errors'

/** Refuses calls that name another host (DNS rebinding) or come from another site's page. */
export function sameOriginOnly(hosts: ReadonlySet<string>): RequestHandler {
  return (request, _response, next) => {
    const host = request.headers.host ?? ''
    if (!hosts.has(host)) throw new HttpError(403, `This server does not answer for the host “${host}”. Set FULGOR_HOSTS to allow it.`)
    const { origin } = request.headers
    if (origin !== undefined && !hosts.has(origin.replace(/^https?:\/\//, '')))
      throw new HttpError(403, `Calls from the page ${origin} are refused.`)
    next()
  }
}

/** Content policy without foreign sources; isolation so that threads may share memory; WebAssembly allowed for the engine. */
export const securityHeaders: RequestHandler = helmet({
  contentSecurityPolicy: {
    useDefaults: false,
    directives: {
      defaultSrc: ["'self'"],
      scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
      styleSrc: ["'self'", "'unsafe-inline'"],
      imgSrc: ["'self'", 'data:', 'blob:'],
      fontSrc: ["'self'"],
      connectSrc: ["'self'"],
      workerSrc: ["'self'"],
      objectSrc: ["'none'"],
      baseUri: ["'none'"],
      formAction: ["'self'"],
      frameAncestors: ["'none'"],
    },
  },
  crossOriginOpenerPolicy: { policy: 'same-origin' },
  crossOriginEmbedderPolicy: { policy: 'require-corp' },
  strictTransportSecurity: false,
})
