export { deviceKind, documentField, guitarKind, KINDS, placeKind, presetKind, recordingKind, showKind, type DocumentKind } from './kinds'
export * from './messages'
