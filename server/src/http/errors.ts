import type { ErrorRequestHandler } from 'express'
import { MulterError } from 'multer'

export interface FieldProblem {
  readonly field: string
  readonly reason: string
}

/** An answer other than success: one sentence for the player, and the fields it is about. */
export class HttpError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly fields: readonly FieldProblem[] = [],
    readonly extra: Readonly<Record<string, unknown>> = {},
  ) {
    super(message)
  }
}

export const notFound = (what: string): HttpError => new HttpError(404, `${what} is not on the shelf.`)

/** Turns what went wrong into `{ error: { message, fields } }`; internals stay in the log. */
export const errorHandler: ErrorRequestHandler = (error: unknown, _request, response, next) => {
  if (response.headersSent) {
    next(error)
    return
  }
  const known = asHttpError(error)
  if (known.status >= 500) console.error(error)
  response.status(known.status).json({ error: { message: known.message, fields: known.fields, ...known.extra } })
}

function asHttpError(error: unknown): HttpError {
  if (error instanceof HttpError) return error
  const { type, code, limit, status, message } = error as {
    type?: string
    code?: string
    limit?: number
    status?: number
    message?: string
  }
  if (error instanceof MulterError) {
    const size = error.code === 'LIMIT_FILE_SIZE'
    const reason = size ? 'is larger than 16 MB.' : `${error.message}.`
    return new HttpError(size ? 413 : 400, `${error.field ?? 'files'}: ${reason} Nothing was stored.`, [
      { field: error.field ?? 'files', reason },
    ])
  }
  if (type === 'entity.parse.failed') return new HttpError(400, 'The request body is not valid JSON.')
  if (type === 'entity.too.large')
    return new HttpError(413, `The request is larger than ${Math.round((limit ?? 0) / 1e6)} MB; nothing was stored.`)
  // what was sent cannot be read: the framework says so by a status of its own
  if (status !== undefined && status >= 400 && status < 500) return new HttpError(status, `The request cannot be read: ${message}.`)
  if (message?.startsWith('Multipart:')) return new HttpError(400, `The request cannot be read: ${message}.`)
  if (isDiskFull(error, code))
    return new HttpError(507, 'The disk is full: nothing was saved. Free some space; your edits stay in the browser until then.')
  return new HttpError(500, 'The server failed on this request; nothing was changed. Its log says more.')
}

function isDiskFull(error: unknown, code: string | undefined): boolean {
  for (let e: unknown = error; e instanceof Error; e = e.cause) {
    const own = (e as { code?: string }).code ?? code
    if (own === 'ENOSPC' || own?.startsWith('SQLITE_FULL') || /database or disk is full/.test(e.message)) return true
  }
  return false
}
