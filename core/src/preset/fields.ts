import { rangeProblem, type ParamSpecs } from '@fulgor/core/catalogue'
import type { ParamValue } from '@fulgor/core/signal'
import type { ParamMap } from './preset'

/** Why a document is not a preset: the place as a path such as `chain[2].params.gain`, and one sentence. */
export class PresetError extends Error {
  override readonly name = 'PresetError'
  constructor(
    readonly path: string,
    readonly reason: string,
  ) {
    super(path === '' ? reason : `${path}: ${reason}`)
  }
}

/** What an id may look like: it also serves as a key of snapshots' changes. */
export const ID_PATTERN = '^[A-Za-z0-9_-]{1,40}$'
const idPattern = new RegExp(ID_PATTERN)

/** Values that fit their specs; not all need be there. */
export function readValues(value: unknown, path: string, specs: ParamSpecs, owner: string): ParamMap {
  return Object.fromEntries(
    Object.entries(object(value, path)).map(([key, raw]) => {
      const at = `${path}.${key}`
      const spec = Object.hasOwn(specs, key) ? specs[key] : undefined
      if (!spec) throw new PresetError(at, `“${owner}” has no such parameter; it has ${Object.keys(specs).join(', ')}.`)
      if (spec.kind === 'choice') {
        if (!spec.options.some((option) => option.value === raw))
          throw new PresetError(at, `must be one of ${spec.options.map((option) => option.value).join(', ')}.`)
        return [key, raw as ParamValue]
      }
      if (typeof raw !== 'number') throw new PresetError(at, 'must be a number.')
      const problem = rangeProblem(spec, raw)
      if (problem) throw new PresetError(at, problem)
      return [key, raw]
    }),
  )
}

export function readId(value: unknown, path: string, ids: Set<string>): string {
  if (typeof value !== 'string' || !idPattern.test(value)) throw new PresetError(path, 'must be 1 to 40 letters, digits, “-” or “_”.')
  if (ids.has(value)) throw new PresetError(path, `“${value}” is used twice.`)
  ids.add(value)
  return value
}

export function object(value: unknown, path: string): Record<string, unknown> {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) throw new PresetError(path, 'must be an object.')
  return value as Record<string, unknown>
}

export function noOthers(o: Record<string, unknown>, path: string, known: readonly string[]): void {
  const unknown = Object.keys(o).find((key) => !known.includes(key))
  if (unknown !== undefined) throw new PresetError(path === '' ? unknown : `${path}.${unknown}`, 'is not a known field.')
}

export function array(value: unknown, path: string, most: number): readonly unknown[] {
  if (!Array.isArray(value)) throw new PresetError(path, 'must be a list.')
  if (value.length > most) throw new PresetError(path, `holds ${value.length} entries, at most ${most} are possible.`)
  return value
}

export function text(value: unknown, path: string, most: number, least: number): string {
  if (typeof value !== 'string' || value.length < least || value.length > most)
    throw new PresetError(path, `must be text of ${least} to ${most} characters.`)
  return value
}

export function flag(value: unknown, path: string): boolean {
  if (typeof value !== 'boolean') throw new PresetError(path, 'must be true or false.')
  return value
}

export function numberIn(value: unknown, path: string, [min, max]: readonly [number, number]): number {
  if (typeof value !== 'number' || !(value >= min && value <= max)) throw new PresetError(path, `must be a number from ${min} to ${max}.`)
  return value
}

export function oneOf<T extends string>(value: unknown, path: string, options: readonly T[]): T {
  const found = options.find((o) => o === value)
  if (found === undefined) throw new PresetError(path, `must be one of ${options.join(', ')}.`)
  return found
}

export function wholeIn(value: unknown, path: string, range: readonly [number, number]): number {
  const found = numberIn(value, path, range)
  if (!Number.isInteger(found)) throw new PresetError(path, 'must be a whole number.')
  return found
}
