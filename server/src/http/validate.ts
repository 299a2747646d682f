import { DocumentError } from '@fulgor/core/document'
import { plainToInstance, type ClassConstructor } from 'class-transformer'
import { registerDecorator, validate, type ValidationError } from 'class-validator'
import type { DocumentKind } from '@fulgor/core/api'
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
  const own = Object.entries(error.constraints ?? {}).map(([rule, text]) => {
    if (rule === 'whitelistValidation') return { field, reason: 'is not a known field.' }
    if (rule !== DOCUMENT_RULE) return { field, reason: `${text.replace(`${error.property} `, '')}.` }
    const [path, reason] = text.split(AT)
    return { field: path === '' ? field : `${field}.${path}`, reason }
  })
  return [...own, ...(error.children ?? []).flatMap((child) => problems(child, `${field}.`))]
}

export const DOCUMENT_RULE = 'isDocument'
/** Stands between place and reason where a rule's message carries both. */
const AT = '\0'

/** class-validator rule: the value reads as a document of this kind; the answer names the field inside it. */
export function IsDocument(kind: Pick<DocumentKind, 'read'>) {
  return (target: object, propertyName: string) =>
    registerDecorator({
      name: DOCUMENT_RULE,
      target: target.constructor,
      propertyName,
      constraints: [kind],
      validator: {
        validate: (value: unknown) => documentProblem(kind, value) === null,
        defaultMessage: (of) => {
          const problem = documentProblem(kind, of?.value)
          return `${problem?.path ?? ''}${AT}${problem?.reason ?? ''}`
        },
      },
    })
}

function documentProblem({ read }: Pick<DocumentKind, 'read'>, value: unknown): DocumentError | null {
  try {
    read(value)
    return null
  } catch (error) {
    if (error instanceof DocumentError) return error
    throw error
  }
}
