import { DocumentError } from '@fulgor/core/document'
import { plainToInstance, type ClassConstructor } from 'class-transformer'
import { registerDecorator, validate, type ValidationError } from 'class-validator'
import { readPreset } from '@fulgor/core/preset'
import { HttpError, type FieldProblem } from './errors'

/**
 * An input as an instance of its DTO.
 * @throws HttpError 400 naming every field that does not fit, with the reason
 */
export async function validated<T extends object>(dto: ClassConstructor<T>, input: unknown): Promise<T> {
  if (typeof input !== 'object' || input === null || Array.isArray(input))
    throw new HttpError(400, 'The request needs a JSON object as its body.')
  const instance = plainToInstance(dto, input)
  const errors = await validate(instance, { whitelist: true, forbidNonWhitelisted: true, forbidUnknownValues: true })
  if (errors.length > 0) {
    const fields = errors.flatMap((e) => problems(e))
    throw new HttpError(400, fields.map((f) => `${f.field}: ${f.reason}`).join(' '), fields)
  }
  return instance
}

function problems(error: ValidationError, prefix = ''): FieldProblem[] {
  const field = prefix + error.property
  const own = Object.entries(error.constraints ?? {}).map(([kind, text]) => {
    if (kind === 'whitelistValidation') return { field, reason: 'is not a known field.' }
    if (kind !== 'isPresetDocument') return { field, reason: `${text.replace(`${error.property} `, '')}.` }
    const problem = presetProblem(error.value)
    return { field: problem && problem.path !== '' ? `${field}.${problem.path}` : field, reason: problem?.reason ?? text }
  })
  return [...own, ...(error.children ?? []).flatMap((child) => problems(child, `${field}.`))]
}

/** class-validator rule: the value reads as a preset document; the answer names the field inside it. */
export function IsPresetDocument() {
  return (target: object, propertyName: string) =>
    registerDecorator({
      name: 'isPresetDocument',
      target: target.constructor,
      propertyName,
      validator: { validate: (value: unknown) => presetProblem(value) === null, defaultMessage: () => 'is not a preset.' },
    })
}

function presetProblem(value: unknown): DocumentError | null {
  try {
    readPreset(value)
    return null
  } catch (error) {
    if (error instanceof DocumentError) return error
    throw error
  }
}
