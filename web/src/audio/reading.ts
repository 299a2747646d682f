import type { Crew } from '../background/crew'
import { Errands } from '../background/errand'
import { Cancelled, reasonOf } from '../background/tasks'
import { notified } from '../state/notices'
import { readingDone, readingsCleared, readingStarted, snapshotRead } from '../state/readings'
import type { Listening } from '../state/store'
import type { RenderTasks } from '../threads/render.worker'
import { renderingOf } from '../threads/riffSource'

/** ms that the figures must stand before the sound is read: typing and dragging come first. */
const QUIET_MS = 400

/** Reads the sound of the open preset for the rules, once all its figures stand; a newer edit stops it. */
export function startReading(listen: Listening, crew: Crew<RenderTasks>): void {
  const errands = new Errands()
  listen({
    predicate: (_, now, before) => now.editor.history?.present !== before.editor.history?.present,
    effect: (_, desk) => {
      errands.end()
      const now = desk.getState().editor
      if (!now.history || now.id !== desk.getOriginalState().editor.id) desk.dispatch(readingsCleared())
    },
  })
  listen({
    predicate: (_, now, before) => now.measures.lastAllMs !== null && now.measures.lastAllMs !== before.measures.lastAllMs,
    effect: async (_, desk) => {
      desk.cancelActiveListeners()
      await desk.delay(QUIET_MS)
      const preset = desk.getState().editor.history?.present
      if (!preset || preset === desk.getState().readings.of) return
      const errand = errands.begin()
      const startedAt = performance.now()
      desk.dispatch(readingStarted(preset))
      const read = async (snapshot: string, home: number) => {
        const reading = await errand.run(crew, {
          task: 'read',
          args: [renderingOf(preset, snapshot, 'live')],
          key: null,
          rank: 'idle',
          home,
        })
        desk.dispatch(snapshotRead({ snapshot, reading }))
      }
      try {
        await Promise.all(preset.snapshots.map(({ id }, i) => read(id, i)))
        desk.dispatch(readingDone(performance.now() - startedAt))
      } catch (error) {
        if (!(error instanceof Cancelled))
          desk.dispatch(notified({ kind: 'warning', text: `The checks could not hear the preset: ${reasonOf(error)}` }))
      }
    },
  })
}
