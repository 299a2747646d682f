export { documentField, guitarKind, KINDS, placeKind, presetKind, type DocumentKind } from './kinds'
export * from './messages'
