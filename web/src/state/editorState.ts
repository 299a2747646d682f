import type { SavedVersion } from '@fulgor/core/api'
import type { History, Preset, Reach } from '@fulgor/core/preset'

export type SyncStatus = 'saved' | 'waiting' | 'saving' | 'offline' | 'conflict' | 'failed'

/** The preset on the Sheet: document with undo, what is selected, and how it stands with the server. */
export interface EditorState {
  id: string | null
  history: History | null
  /** Snapshot that is heard and lit. */
  snapshot: string | null
  /** Stage in the Focus panel. */
  stage: string | null
  /** Whether edits reach the lit snapshot alone or all that share the value with it. */
  reach: Reach
  /** Which cell of the chosen stage's row has the focus: its name or that of the lit snapshot. */
  column: 'name' | 'snapshot'
  /** Key of the value in the Focus panel that pointer or focus is on: the sheet marks where its edit would go. */
  pointed: string | null
  panel: 'stage' | 'snapshot' | 'preset'
  revision: number
  saved: SavedVersion | null
  sync: { status: SyncStatus; message: string; at: number | null }
  conflict: { revision: number; document: Preset } | null
}

/** No preset is open. */
export const nothingOpen: EditorState = {
  id: null,
  history: null,
  snapshot: null,
  stage: null,
  reach: 'shared',
  column: 'name',
  pointed: null,
  panel: 'stage',
  revision: 0,
  saved: null,
  sync: { status: 'saved', message: '', at: null },
  conflict: null,
}
