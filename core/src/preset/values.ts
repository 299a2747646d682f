import { rangeProblem, type ParamSpec, type ParamSpecs } from '@fulgor/core/catalogue'
import { asObject, at, choice, DocumentError, number, type Field, type Json } from '@fulgor/core/document'
import type { ParamValue } from '@fulgor/core/signal'

export type ParamMap = Readonly<Record<string, ParamValue>>

/** Values that fit their specs; not all need be there. @throws DocumentError */
export function readValues(value: unknown, path: string, specs: ParamSpecs, owner: string): ParamMap {
  const raw = asObject(value, path)
  const found: Record<string, ParamValue> = {}
  for (const key of Object.keys(raw)) {
    const spec = Object.hasOwn(specs, key) ? specs[key] : undefined
    if (!spec) throw new DocumentError(at(path, key), `“${owner}” has no such parameter; it has ${Object.keys(specs).join(', ')}.`)
    const problem = valueProblem(spec, raw[key])
    if (problem) throw new DocumentError(at(path, key), problem)
    found[key] = raw[key] as ParamValue
  }
  return found
}

function valueProblem(spec: ParamSpec, raw: unknown): string | null {
  if (spec.kind === 'choice')
    return spec.options.some((o) => o.value === raw) ? null : `must be one of ${spec.options.map((o) => o.value).join(', ')}.`
  return typeof raw === 'number' ? rangeProblem(spec, raw) : 'must be a number.'
}

/** Values of which not all need be there, as a field. */
export const someValues = (specs: ParamSpecs, owner: string): Field<ParamMap> => ({
  read: (value, path) => readValues(value, path, specs, owner),
  schema: () => valuesSchema(specs),
})

export const valuesSchema = (specs: ParamSpecs): Json => ({
  type: 'object',
  additionalProperties: false,
  properties: Object.fromEntries(Object.entries(specs).map(([key, spec]) => [key, valueSchema(spec)])),
})

function valueSchema(spec: ParamSpec): Json {
  if (spec.kind === 'choice') return { title: spec.label, enum: spec.options.map((o) => o.value), default: spec.initial }
  return { title: spec.label, type: 'number', minimum: spec.min, maximum: spec.max, default: spec.initial, 'x-unit': spec.unit }
}

type ValueOf<S> = S extends { kind: 'number' }
  ? number
  : S extends { kind: 'choice'; options: readonly { value: infer V }[] }
    ? V
    : ParamValue

/** The parameters of a catalogue entry as fields of a record. */
export const fieldsOf = <S extends ParamSpecs>(specs: S): { readonly [K in keyof S]: Field<ValueOf<S[K]>> } =>
  Object.fromEntries(
    Object.entries(specs).map(([key, spec]) => {
      const field: Field<ParamValue> = spec.kind === 'number' ? number([spec.min, spec.max]) : choice(spec.options.map((o) => o.value))
      return [key, { ...field, schema: () => valueSchema(spec) }]
    }),
  ) as never

/** Where the parameters of a catalogue entry begin. */
export const initialsOf = (specs: ParamSpecs): ParamMap =>
  Object.fromEntries(Object.entries(specs).map(([key, spec]) => [key, spec.initial]))
