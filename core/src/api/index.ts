import type { ResponseReport } from '@fulgor/core/cabinet'
import type { Preset } from '@fulgor/core/preset'

/** What server and page tell each other; the server's OpenAPI description says the same. */
export interface PresetSummary {
  readonly id: string
  readonly name: string
  readonly tags: readonly string[]
  readonly tempo: number
  readonly stageCount: number
  readonly snapshotCount: number
  readonly revision: number
  /** ms since 1970. */
  readonly createdAt: number
  readonly updatedAt: number
  /** When it was put into the bin; null while it is on the shelf. */
  readonly deletedAt: number | null
}

/** Days that a preset stays in the bin before it is gone. */
export const BIN_DAYS = 30

export interface PresetList {
  readonly presets: readonly PresetSummary[]
  readonly total: number
  readonly tags: readonly { readonly tag: string; readonly count: number }[]
}

export interface SavedVersion {
  readonly number: number
  readonly createdAt: number
  readonly document: Preset
}

export interface StoredPreset extends PresetSummary {
  readonly document: Preset
  /** The last version that the player saved. */
  readonly saved: SavedVersion | null
}

export interface VersionSummary {
  readonly number: number
  readonly kind: 'saved' | 'auto'
  readonly note: string
  readonly revision: number
  readonly createdAt: number
}

export interface UpdateRequest {
  readonly document: Preset
  readonly baseRevision: number
  readonly save: boolean
  readonly note?: string
  /** Names the tab: one tab's autosaves never replace another's. */
  readonly writer?: string
}

export interface UpdateAnswer {
  readonly id: string
  readonly revision: number
  readonly updatedAt: number
  readonly version: number
}

export interface RiffAsset {
  readonly hash: string
  readonly name: string
  readonly bytes: number
  readonly sampleRate: number
  readonly channels: number
  readonly frames: number
  readonly createdAt: number
}

/** An impulse response on file, with what was read of it. */
export interface ResponseAsset extends ResponseReport {
  readonly hash: string
  readonly name: string
  /** Folder that it came in. */
  readonly path: string
  readonly tags: readonly string[]
  readonly favourite: boolean
  readonly bytes: number
  readonly createdAt: number
}

/** What became of one file of an upload. */
export type UploadedResponse =
  | { readonly path: string; readonly outcome: 'taken'; readonly hash: string }
  | { readonly path: string; readonly outcome: 'duplicate'; readonly of: string }
  | { readonly path: string; readonly outcome: 'refused'; readonly reason: string }

export interface ApiError {
  readonly error: {
    readonly message: string
    readonly fields: readonly { readonly field: string; readonly reason: string }[]
    /** With status 409: what is stored now. */
    readonly current?: Omit<StoredPreset, 'saved'>
  }
}
