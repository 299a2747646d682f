import type { ClassConstructor } from 'class-transformer'
import { validationMetadatasToSchemas } from 'class-validator-jsonschema'
import { errorField } from '@fulgor/core/api'
import type { Json } from '@fulgor/core/document'
import type { DocumentKind } from '@fulgor/core/api'
import type { Route, Section } from '../http/route'
import { DOCUMENT_RULE } from '../http/validate'

type Schemas = Record<string, { properties?: Record<string, Json>; required?: string[] }>

/** OpenAPI 3.1 description of the API, made of the routes, their DTOs and the kinds of documents. */
export function openApi(sections: readonly Section[], kinds: readonly DocumentKind[]): Json {
  const dtos = validationMetadatasToSchemas({
    refPointerPrefix: '#/components/schemas/',
    additionalConverters: {
      [DOCUMENT_RULE]: ({ constraints }) => ({ $ref: `#/components/schemas/${(constraints as [DocumentKind])[0].title}` }),
    },
  }) as Schemas
  const defs: Record<string, Json | null> = {}
  const paths: Record<string, Json> = {}
  for (const { prefix, routes } of sections)
    for (const route of routes) {
      const path = (prefix + (route.path === '/' ? '' : route.path)).replace(/:(\w+)/g, '{$1}')
      paths[path] = { ...paths[path], [route.method]: operation(route, dtos, defs) }
    }
  const own = Object.fromEntries(kinds.map((kind) => [kind.title, kind.schema()]))
  return {
    openapi: '3.1.0',
    info: { title: 'Fulgor', version: '1', description: 'Documents with their versions, the player’s recordings and impulse responses.' },
    paths,
    components: { schemas: { ...dtos, ...own, Error: errorField.schema(defs) } },
  }
}

function operation(route: Route, dtos: Schemas, defs: Record<string, Json | null>): Json {
  const fields = (dto: ClassConstructor<object> | undefined, place: 'path' | 'query') =>
    Object.entries(dto ? (dtos[dto.name].properties ?? {}) : {}).map(([name, schema]) => ({
      name,
      in: place,
      required: place === 'path' || (dtos[dto?.name ?? ''].required?.includes(name) ?? false),
      schema,
    }))
  const parameters = [...fields(route.params, 'path'), ...fields(route.query, 'query')]
  const content = route.upload?.content ?? (route.body ? json({ $ref: `#/components/schemas/${route.body.name}` }) : null)
  const also = Object.entries(route.also ?? {}).map(([status, description]) => [status, { description }])
  return {
    summary: route.summary,
    ...(parameters.length > 0 ? { parameters } : {}),
    ...(content ? { requestBody: { required: true, content } } : {}),
    responses: {
      [route.status]: { description: route.says, ...(route.answer ? { content: json(route.answer.schema(defs)) } : {}) },
      ...Object.fromEntries(also),
      default: {
        description: 'What was wrong, in one sentence, and the fields it is about.',
        content: json({ $ref: '#/components/schemas/Error' }),
      },
    },
  }
}

const json = (schema: Json): Json => ({ 'application/json': { schema } })
