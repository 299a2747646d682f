export { deviceKind, documentField, guitarKind, KINDS, placeKind, presetKind, recordingKind, type DocumentKind } from './kinds'
export * from './messages'
