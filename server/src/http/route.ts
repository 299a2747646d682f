import { Router, type Request, type RequestHandler, type Response } from 'express'
import type { ClassConstructor } from 'class-transformer'
import type { Field, Json } from '@fulgor/core/document'
import { validated } from './validate'

/** What a route is given: what came in, each part read as its DTO. */
export interface Given<P, Q, B> {
  readonly params: P
  readonly query: Q
  readonly body: B
  readonly files: readonly { readonly buffer: Buffer }[]
  readonly request: Request
  readonly response: Response
}

/** One route, told once: Express runs it, the OpenAPI description is made of it. */
export interface Route {
  readonly method: 'get' | 'post' | 'put' | 'patch' | 'delete'
  /** Below the prefix, with `:name` for what varies. */
  readonly path: string
  readonly summary: string
  readonly params?: ClassConstructor<object>
  readonly query?: ClassConstructor<object>
  readonly body?: ClassConstructor<object>
  /** Reads a body that is not JSON, and what the description says of it; without a reader the handler takes it as it flows in. */
  readonly upload?: { readonly parse?: RequestHandler; readonly content: Json }
  readonly status: number
  readonly says: string
  readonly answer?: Field<unknown>
  /** Other answers than errors. */
  readonly also?: Readonly<Record<number, string>>
  /** @returns what is sent as JSON; {@link SENT} where the answer is on its way already */
  handle(given: Given<object, object, object>): Promise<unknown>
}

export const SENT = Symbol('sent')

type Told<P, Q, B> = Omit<Route, 'params' | 'query' | 'body' | 'handle'> & {
  readonly params?: ClassConstructor<P>
  readonly query?: ClassConstructor<Q>
  readonly body?: ClassConstructor<B>
  handle(given: Given<P, Q, B>): Promise<unknown>
}

/** Lets the handler have the types of its DTOs. */
export const route = <P extends object = object, Q extends object = object, B extends object = object>(told: Told<P, Q, B>): Route => told

export interface Section {
  readonly prefix: string
  readonly routes: readonly Route[]
}

export function routerOf({ routes }: Section): Router {
  const router = Router()
  for (const own of routes)
    router[own.method](own.path, ...(own.upload?.parse ? [own.upload.parse] : []), async (request, response) => {
      const read = (dto: ClassConstructor<object> | undefined, value: unknown) => (dto ? validated(dto, value) : Promise.resolve({}))
      const answer = await own.handle({
        params: await read(own.params, request.params),
        query: await read(own.query, { ...request.query }),
        body: own.upload && !own.body ? (request.body as object) : await read(own.body, request.body),
        files: (request.files ?? []) as readonly { buffer: Buffer }[],
        request,
        response,
      })
      if (answer === SENT) return
      response.status(own.status)
      if (answer === undefined) response.end()
      else response.json(answer)
    })
  return router
}
