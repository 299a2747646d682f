import type { Migration } from '@fulgor/core/document'
import { toVersion2 } from './toVersion2'
import { toVersion3 } from './toVersion3'
import { toVersion4 } from './toVersion4'

/** Steps of the preset's format, one file each, the first one from version 1 to 2. */
export const MIGRATIONS: readonly Migration[] = [toVersion2, toVersion3, toVersion4]
