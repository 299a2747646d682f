export {
  asObject,
  at,
  DocumentError,
  readWith,
  schemaOf,
  type Field,
  type Fields,
  type Json,
  type Of,
  type OptionalMark,
  type Range,
  type Reading,
  type RecordOf,
} from './field'
export { choice, constant, fileHash, flag, id, ID_PATTERN, ID_SCHEMA, idProblem, matching, number, text, whole } from './plain'
export {
  filled,
  list,
  named,
  nested,
  nullable,
  optional,
  optionalIf,
  pair,
  record,
  refined,
  table,
  tagged,
  type ListOf,
  type RecordField,
} from './composed'
export { migrated, type Migration } from './migrate'
