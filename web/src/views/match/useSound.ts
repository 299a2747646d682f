import type { View } from '@fulgor/core/recording'
import type { Preset } from '@fulgor/core/preset'
import { useWish } from '../../background/useWish'
import { renderers } from '../../threads/crews'
import type { RenderTasks } from '../../threads/render.worker'
import { renderingOf } from '../../threads/riffSource'
import { lookedAt } from '../../reference/useReference'
import type { Recording } from '@fulgor/core/recording'

/** What of a preset is looked at: nobody is after the difference of its own sides. */
export const soundView = (view: View): View => (view === 'side' ? 'mid' : view)

/** What a snapshot sounds like on its riff, or a take of the player's device in its place. */
export function useSound(preset: Preset, snapshot: string, take: string | null, view: View) {
  const sound = useWish<RenderTasks, 'portrait'>(
    renderers,
    [preset, snapshot, take, view],
    () =>
      take === null ? { task: 'portrait', args: [renderingOf(preset, snapshot, 'live'), soundView(view)], key: null, rank: 'lit' } : null,
    { afterMs: 200, hold: true },
  )
  const recorded = useWish<RenderTasks, 'takePortrait'>(
    renderers,
    [take, view],
    () => (take === null ? null : { task: 'takePortrait', args: [take, soundView(view)], rank: 'lit', keep: 8 }),
    { hold: true },
  )
  return take === null ? sound : recorded
}

/** What the marked stretches of a recording sound like. */
export function useRecordingSound(recording: Recording | null) {
  return useWish<RenderTasks, 'recordingPortrait'>(
    renderers,
    [recording ? JSON.stringify(lookedAt(recording)) : ''],
    () => (recording ? { task: 'recordingPortrait', args: [...lookedAt(recording)], rank: 'lit', keep: 8 } : null),
    { afterMs: 250, hold: true },
  )
}
