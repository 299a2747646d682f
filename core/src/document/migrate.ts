import { asObject, DocumentError, type Json } from './field'

/** One step of a format: what a document of this version looks like in the next one. */
export type Migration = (document: Json) => Json

/**
 * A document of an older version in the form of today's.
 * @param steps from version 1 on; their number and 1 is today's version
 * @throws DocumentError where it is no such document, or comes from a newer program
 */
export function migrated(value: unknown, format: string, title: string, steps: readonly Migration[]): Json {
  const document = asObject(value, '')
  const today = steps.length + 1
  if (document.format !== format) throw new DocumentError('format', `this is no Fulgor ${title}: its format must be “${format}”.`)
  const { version } = document
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1)
    throw new DocumentError('version', 'must be a whole number from 1.')
  if (version > today)
    throw new DocumentError('version', `is ${version}; this Fulgor reads ${title}s up to version ${today}. Update it first.`)
  return steps.slice(version - 1).reduce((d, step, i) => ({ ...step(d), version: version + i + 1 }), document)
}
