import { TAP_PAUSE_MS } from '@fulgor/core/stage'
import { edit } from '../edit'

export const aboutEdits = {
  rename: edit<{ name: string }>((preset, { name }) => ({ ...preset, name }), { joins: () => '' }),
  setTags: edit<{ tags: readonly string[] }>((preset, { tags }) => ({ ...preset, tags })),
  setNotes: edit<{ notes: string }>((preset, { notes }) => ({ ...preset, notes }), { joins: () => '' }),
  /** null: it is to come near to none. */
  setReference: edit<{ reference: string | null }>(({ reference: _, ...preset }, { reference }) =>
    reference === null ? preset : { ...preset, reference },
  ),
  /** A tempo may come from taps, and all taps of a row are one step however slow they are. */
  setTempo: edit<{ tempo: number }>((preset, { tempo }) => ({ ...preset, tempo }), { joins: () => '', within: () => TAP_PAUSE_MS }),
}
