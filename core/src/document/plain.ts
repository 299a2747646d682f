import { DocumentError, type Field, type Range } from './field'

interface About {
  /** What it is, for those who read the schema. */
  readonly about?: string
}

const described = ({ about }: About) => (about === undefined ? {} : { description: about })

const LONE_SURROGATE = /\p{Surrogate}/u

/** Text of so many characters. */
export function text(most: number, { least = 1, ...about }: About & { least?: number } = {}): Field<string> & { readonly most: number } {
  return {
    most,
    read(value, path) {
      if (typeof value !== 'string' || value.length < least || value.length > most)
        throw new DocumentError(path, `must be text of ${least} to ${most} characters.`)
      // half of a surrogate pair cannot be stored as UTF-8 and come back
      if (LONE_SURROGATE.test(value)) throw new DocumentError(path, 'holds half of a character (a lone surrogate).')
      return value
    },
    schema: () => ({ type: 'string', ...(least > 0 ? { minLength: least } : {}), maxLength: most, ...described(about) }),
  }
}

/** Text of a shape. @param says the sentence of a refusal */
export function matching(pattern: string, says: string, about: About = {}): Field<string> {
  const shape = new RegExp(pattern)
  return {
    read(value, path) {
      if (typeof value !== 'string' || !shape.test(value)) throw new DocumentError(path, says)
      return value
    },
    schema: () => ({ type: 'string', pattern, ...described(about) }),
  }
}

/** A number in a range, both ends included. */
export function number(range: Range, about: About = {}): Field<number> & { readonly range: Range } {
  const [minimum, maximum] = range
  return {
    range,
    read(value, path) {
      if (typeof value !== 'number' || !(value >= minimum && value <= maximum))
        throw new DocumentError(path, `must be a number from ${minimum} to ${maximum}.`)
      return value
    },
    schema: () => ({ type: 'number', minimum, maximum, ...described(about) }),
  }
}

/** A whole number in a range. */
export function whole(range: Range, about: About = {}): Field<number> & { readonly range: Range } {
  const field = number(range)
  return {
    range,
    read(value, path, reading) {
      const found = field.read(value, path, reading)
      if (!Number.isInteger(found)) throw new DocumentError(path, 'must be a whole number.')
      return found
    },
    schema: () => ({ type: 'integer', minimum: range[0], maximum: range[1], ...described(about) }),
  }
}

export function flag(about: About = {}): Field<boolean> {
  return {
    read(value, path) {
      if (typeof value !== 'boolean') throw new DocumentError(path, 'must be true or false.')
      return value
    },
    schema: () => ({ type: 'boolean', ...described(about) }),
  }
}

/** One of some words or numbers. */
export function choice<const T extends string | number>(
  options: readonly T[],
  about: About = {},
): Field<T> & { readonly options: readonly T[] } {
  const words = options.map((option) => String(option).replace('-', typeof option === 'number' ? '−' : '-'))
  const says = words.length === 2 ? `must be ${words.join(' or ')}.` : `must be one of ${words.join(', ')}.`
  return {
    options,
    read(value, path) {
      const found = options.find((option) => option === value)
      if (found === undefined) throw new DocumentError(path, says)
      return found
    },
    schema: () => ({ enum: options, ...described(about) }),
  }
}

/** Always the same. @param says the sentence of a refusal */
export function constant<const T extends string | number>(only: T, says = `must be “${only}”.`): Field<T> {
  return {
    read(value, path) {
      if (value !== only) throw new DocumentError(path, says)
      return only
    },
    schema: () => ({ const: only }),
  }
}

/** What an id may look like: it also serves as a key. */
export const ID_PATTERN = '^[A-Za-z0-9_-]{1,40}$'
const idShape = new RegExp(ID_PATTERN)
/** Names that every object of JavaScript has: as keys they would hide or be lost. */
const RESERVED = Object.getOwnPropertyNames(Object.prototype).filter((name) => idShape.test(name))
const reserved = new Set(RESERVED)

/** @returns why a key or id is none, or null */
export function idProblem(value: unknown): string | null {
  if (typeof value !== 'string' || !idShape.test(value)) return 'must be 1 to 40 letters, digits, “-” or “_”.'
  return reserved.has(value) ? `“${value}” is a word of its own in the program; take another one.` : null
}

/** The schema of ids and of keys that are ids. */
export const ID_SCHEMA = { type: 'string', pattern: ID_PATTERN, not: { enum: RESERVED } }

/** An id of its own in its scope. */
export function id(): Field<string> {
  return {
    read(value, path, { ids }) {
      const problem = idProblem(value)
      if (problem) throw new DocumentError(path, problem)
      if (ids.has(value as string)) throw new DocumentError(path, `“${value as string}” is used twice.`)
      ids.add(value as string)
      return value as string
    },
    schema: () => ID_SCHEMA,
  }
}

/** The SHA-256 of a stored file. */
export const fileHash = (): Field<string> => matching('^[0-9a-f]{64}$', 'must be a SHA-256 in hexadecimal.')
