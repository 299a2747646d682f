import type { DocumentKind } from '../kind'
import { presetKind } from './preset'

/** Every kind of document that the server keeps. */
export const KINDS = [presetKind] as readonly DocumentKind[]
