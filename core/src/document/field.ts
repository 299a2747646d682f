/** A JSON Schema (draft 2020-12), or a part of one. */
export type Json = Record<string, unknown>

/** Why a document is refused: the place as a path such as `chain[2].params.gain`, and one sentence. */
export class DocumentError extends Error {
  override readonly name = 'DocumentError'
  constructor(
    readonly path: string,
    readonly reason: string,
  ) {
    super(path === '' ? reason : `${path}: ${reason}`)
  }
}

/** What is known where a field is read. */
export interface Reading {
  /** Ids that were read in this scope; none may come twice. */
  readonly ids: Set<string>
  /** How many {@link nested} values lie around this one. */
  readonly depth: number
  /** The raw object that the field stands in. */
  readonly owner: Json
}

/**
 * One field of a document, described once: from it come its TypeScript type ({@link Of}), its reader and its JSON Schema.
 */
export interface Field<T> {
  /** @throws DocumentError naming the place and the reason */
  read(value: unknown, path: string, reading: Reading): T
  /** @param defs takes what is described once and referred to, by name */
  schema(defs: Record<string, Json | null>): Json
}

/** Marks a field that may be missing, and then stays missing. */
export interface OptionalMark {
  readonly optional: true
  /** False where the field has no place in this owner. */
  allowed(owner: Json): boolean
}

export type Of<F> = F extends Field<infer T> ? T : never

export type Fields = Readonly<Record<string, Field<unknown>>>

type Flat<T> = { [K in keyof T]: T[K] }

/** What an object with these fields holds. */
export type RecordOf<F extends Fields> = Flat<
  { readonly [K in keyof F as F[K] extends { readonly optional: true } ? never : K]: Of<F[K]> } & {
    readonly [K in keyof F as F[K] extends { readonly optional: true } ? K : never]?: Of<F[K]>
  }
>

export type Range = readonly [min: number, max: number]

/** Reads a whole document. @throws DocumentError */
export const readWith = <T>(field: Field<T>, value: unknown, path = '', ids = new Set<string>()): T =>
  field.read(value, path, { ids, depth: 0, owner: {} })

/** The JSON Schema of a whole document. */
export function schemaOf(field: Field<unknown>, head: Json): Json {
  const defs: Record<string, Json | null> = {}
  const body = field.schema(defs)
  return { $schema: 'https://json-schema.org/draft/2020-12/schema', ...head, ...body, $defs: defs }
}

/** @throws DocumentError where the value is no plain object */
export function asObject(value: unknown, path: string): Json {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) throw new DocumentError(path, 'must be an object.')
  return value as Json
}

export const at = (path: string, key: string): string => (path === '' ? key : `${path}.${key}`)
