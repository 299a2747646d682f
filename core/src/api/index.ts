export { documentField, guitarKind, KINDS, presetKind, type DocumentKind } from './kinds'
export * from './messages'
