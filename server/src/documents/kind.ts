import type { Field, Fields, Json } from '@fulgor/core/document'

/**
 * A kind of document: all that the server needs to know to store, list, search and serve it. A new kind is one entry in {@link KINDS}.
 */
export interface DocumentKind<T = unknown> {
  /** Names it in the database; never changes. */
  readonly kind: string
  /** Its path below `/api/`. */
  readonly path: string
  /** One of it, as in “Preset “x” is not on the shelf.”. */
  readonly title: string
  /** Format version that it is written in; older ones are migrated when they are read. */
  readonly version: number
  /** @throws DocumentError naming the field and the reason */
  read(value: unknown): T
  /** The published JSON Schema. */
  schema(): Json
  readonly name: (document: T) => string
  readonly tags: (document: T) => readonly string[]
  /** Free text that a search looks through, besides name and tags. */
  readonly text: (document: T) => string
  /** What a list tells besides. */
  readonly listed: Fields
  readonly list: (document: T) => Readonly<Record<string, unknown>>
}

/** The document as a field of an answer: its own schema stands among the components. */
export const documentField = <T>(kind: DocumentKind<T>): Field<T> => ({
  read: (value) => kind.read(value),
  schema: () => ({ $ref: `#/components/schemas/${kind.title}` }),
})
