import { marksOf, type Part, type Recording, type View } from '@fulgor/core/recording'
import { useWish } from '../background/useWish'
import { recordingSource } from '../state/recordingSource'
import { useKitDocument } from '../state/useKitDocument'
import { renderers } from '../threads/crews'
import type { RenderTasks } from '../threads/render.worker'

/** A reference as it is edited, and what its marked stretches are. */
export function useReference(id: string, keys: boolean) {
  const editing = useKitDocument(id, recordingSource, keys)
  const { document: recording } = editing
  const outline = useOutline(recording)
  const inspection = useInspection(recording)
  return { editing, recording, outline, inspection }
}
export type UsedReference = ReturnType<typeof useReference>

function useOutline(recording: Recording | null) {
  return useWish<RenderTasks, 'outline'>(renderers, [recording?.file], () =>
    recording ? { task: 'outline', args: [recording.file], rank: 'beside', keep: 20 } : null,
  )
}

/** Which stretches are looked at, and which sides. */
export const lookedAt = (recording: Recording): readonly [file: string, parts: readonly Part[], view: View] => [
  recording.file,
  marksOf(recording),
  recording.view ?? 'mid',
]

function useInspection(recording: Recording | null) {
  const key = recording ? JSON.stringify(lookedAt(recording)) : ''
  return useWish<RenderTasks, 'inspect'>(
    renderers,
    [key],
    () => (recording ? { task: 'inspect', args: [...lookedAt(recording)], rank: 'lit', keep: 20, line: 'inspect' } : null),
    { afterMs: 250, hold: true },
  )
}
