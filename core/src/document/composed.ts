import {
  asObject,
  at,
  DocumentError,
  type Field,
  type Fields,
  type Json,
  type Of,
  type OptionalMark,
  type Reading,
  type RecordOf,
} from './field'
import { ID_SCHEMA, idProblem } from './plain'

const isOptional = (field: Field<unknown>): field is Field<unknown> & OptionalMark => 'optional' in field

/** A field that may be missing. */
export const optional = <F extends Field<unknown>>(field: F): F & OptionalMark => optionalIf(() => true, field)

/** A field that only some owners may have, and may be missing there too. */
export const optionalIf = <F extends Field<unknown>>(allowed: (owner: Json) => boolean, field: F): F & OptionalMark => ({
  ...field,
  optional: true,
  allowed,
})

/** A value, or null. */
export const nullable = <T, F extends Field<T>>(field: F & Field<T>): Field<T | null> & { readonly of: F } => ({
  of: field,
  read: (value, path, reading) => (value === null ? null : field.read(value, path, reading)),
  schema: (defs) => ({ oneOf: [{ type: 'null' }, field.schema(defs)] }),
})

/** A value with a further rule. @param check throws DocumentError */
export const refined = <F extends Field<unknown>>(field: F, check: (value: Of<F>, path: string) => void): F => ({
  ...field,
  read(value: unknown, path: string, reading: Reading) {
    const found = field.read(value, path, reading) as Of<F>
    check(found, path)
    return found
  },
})

export interface ListOf<T, F extends Field<T> = Field<T>> extends Field<readonly T[]> {
  readonly item: F
  readonly most: number
}

/**
 * A list.
 * @param ids `own`: its ids are a scope of their own
 * @param none the sentence where it holds fewer than `least`
 */
export function list<T, F extends Field<T>>(
  item: F & Field<T>,
  most: number,
  {
    least = 0,
    none = `must hold at least ${least}.`,
    ids,
    unique = false,
  }: { least?: number; none?: string; ids?: 'own'; unique?: boolean } = {},
): ListOf<T, F> {
  return {
    item,
    most,
    read(value, path, reading) {
      if (!Array.isArray(value)) throw new DocumentError(path, 'must be a list.')
      if (value.length > most) throw new DocumentError(path, `holds ${value.length} entries, at most ${most} are possible.`)
      if (value.length < least) throw new DocumentError(path, none)
      const inside = ids === 'own' ? { ...reading, ids: new Set<string>() } : reading
      const found: T[] = []
      // an index, as a hole of the list is no value of it
      for (let i = 0; i < value.length; i++) found.push(item.read(value[i], `${path}[${i}]`, inside))
      if (unique && new Set(found).size < found.length) throw new DocumentError(path, 'names one twice.')
      return found
    },
    schema: (defs) => ({
      type: 'array',
      ...(least > 0 ? { minItems: least } : {}),
      maxItems: most,
      ...(unique ? { uniqueItems: true } : {}),
      items: item.schema(defs),
    }),
  }
}

/** Two values in their order. */
export function pair<T>(item: Field<T>): Field<readonly [T, T]> {
  const both = list(item, 2, { least: 2, none: 'must hold two values.' })
  return {
    read: (value, path, reading) => both.read(value, path, reading) as unknown as readonly [T, T],
    schema: (defs) => both.schema(defs),
  }
}

/** Values by id. */
export function table<T>(item: Field<T>, most = Infinity): Field<Readonly<Record<string, T>>> {
  return {
    read(value, path, reading) {
      const entries = Object.entries(asObject(value, path))
      if (entries.length > most) throw new DocumentError(path, `holds ${entries.length} entries, at most ${most} are possible.`)
      return Object.fromEntries(
        entries.map(([key, raw]) => {
          const problem = idProblem(key)
          if (problem) throw new DocumentError(at(path, key), problem)
          return [key, item.read(raw, at(path, key), reading)]
        }),
      )
    },
    schema: (defs) => ({ type: 'object', propertyNames: ID_SCHEMA, additionalProperties: item.schema(defs) }),
  }
}

export interface RecordField<F extends Fields> extends Field<RecordOf<F>> {
  readonly fields: F
}

/** An object with just these fields, read in their order. */
export function record<F extends Fields>(fields: F): RecordField<F> {
  const entries = Object.entries(fields)
  return {
    fields,
    read(value, path, { ids, depth }) {
      const owner = asObject(value, path)
      for (const key of Object.keys(owner)) {
        const known = Object.hasOwn(fields, key) ? fields[key] : undefined
        if (!known || (isOptional(known) && !known.allowed(owner))) throw new DocumentError(at(path, key), 'is not a known field.')
      }
      const inside = { ids, depth, owner }
      const found: Json = {}
      for (const [key, field] of entries) {
        const raw = Object.hasOwn(owner, key) ? owner[key] : undefined
        if (raw === undefined && isOptional(field)) continue
        found[key] = field.read(raw, at(path, key), inside)
      }
      return found as RecordOf<F>
    },
    schema: (defs) => ({
      type: 'object',
      additionalProperties: false,
      required: entries.flatMap(([key, field]) => (isOptional(field) ? [] : [key])),
      properties: Object.fromEntries(entries.map(([key, field]) => [key, field.schema(defs)])),
    }),
  }
}

/** An object whose fields may be missing but for some; those that are take what `initial` says. */
export function filled<F extends Fields>(
  field: RecordField<F>,
  required: readonly (keyof F & string)[],
  initial: (raw: Json) => object,
): Field<RecordOf<F>> {
  return {
    read: (value, path, reading) => {
      const raw = asObject(value, path)
      return field.read({ ...initial(raw), ...raw }, path, reading)
    },
    schema: (defs) => ({ ...field.schema(defs), required }),
  }
}

/** One of several kinds of object, told apart by one word; each kind describes that word itself. */
export function tagged<V extends Readonly<Record<string, Field<unknown>>>>(key: string, kinds: V): Field<Of<V[keyof V]>> {
  const names = Object.keys(kinds)
  const says = names.length === 2 ? `must be “${names[0]}” or “${names[1]}”.` : `must be one of ${names.join(', ')}.`
  return {
    read(value, path, reading) {
      const { [key]: name } = asObject(value, path)
      if (typeof name !== 'string' || !Object.hasOwn(kinds, name)) throw new DocumentError(at(path, key), says)
      return kinds[name].read(value, path, reading) as Of<V[keyof V]>
    },
    schema: (defs) => ({ oneOf: names.map((name) => kinds[name].schema(defs)) }),
  }
}

/** What stands in the schema once, under a name; also where it holds itself. */
export function named<T>(name: string, describe: () => Field<T>): Field<T> {
  let made: Field<T> | null = null
  // not before it is needed: what it holds may stand further down
  const field = () => (made ??= describe())
  return {
    read: (value, path, reading) => field().read(value, path, reading),
    schema(defs) {
      if (!(name in defs)) {
        defs[name] = null
        defs[name] = field().schema(defs)
      }
      return { $ref: `#/$defs/${name}` }
    },
  }
}

/** A value that may lie in values of its own kind, so deep and not deeper. */
export const nested = <T>(field: Field<T>, deepest: number, says: string): Field<T> => ({
  read(value, path, reading) {
    if (reading.depth >= deepest) throw new DocumentError(path, says)
    return field.read(value, path, { ...reading, depth: reading.depth + 1 })
  },
  schema: (defs) => field.schema(defs),
})
