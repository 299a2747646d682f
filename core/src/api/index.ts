export { documentField, KINDS, presetKind, type DocumentKind } from './kinds'
export * from './messages'
