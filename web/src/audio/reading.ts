import { TaskAbortError } from '@reduxjs/toolkit'
import type { Crew } from '../background/crew'
import { Errands } from '../background/errand'
import { Cancelled, reasonOf } from '../background/tasks'
import { notified } from '../state/notices'
import { handRested, readingDone, readingsCleared, readingStarted, snapshotRead } from '../state/readings'
import type { Listening, RootState } from '../state/store'
import type { RenderTasks } from '../threads/render.worker'
import { renderingOf } from '../threads/riffSource'

/** ms that the figures must stand, and the hands be still, before a snapshot is read: what a player does comes first. */
const QUIET_MS = 400
const STILL_MS = 1_200
/** ms without an edit in which a hand counts as resting, and at most until the page is free: the figures come first. */
const REST_MS = 150
const FIGURES_MS = 1_500

/** Reads the sound of the open preset for the rules, once all its figures stand; a newer edit stops it. */
export function startReading(listen: Listening, crew: Crew<RenderTasks>): void {
  const errands = new Errands()
  let handsAt = -Infinity
  for (const type of ['keydown', 'keyup', 'pointerdown', 'pointerup', 'wheel'])
    addEventListener(type, () => (handsAt = performance.now()), { capture: true, passive: true })
  listen({
    predicate: (_, now, before) => now.editor.history?.present !== before.editor.history?.present,
    effect: (_, desk) => {
      errands.end()
      const now = desk.getState().editor
      if (!now.history || now.id !== desk.getOriginalState().editor.id) desk.dispatch(readingsCleared())
    },
  })
  listen({
    predicate: (_, now, before) => now.editor.history?.present !== before.editor.history?.present,
    effect: async (_, desk) => {
      desk.cancelActiveListeners()
      if (desk.getState().editor.id === desk.getOriginalState().editor.id) {
        await desk.delay(REST_MS)
        const stand = (state: RootState) => state.measures.lastAllMs !== null
        if (!stand(desk.getState())) await desk.condition((_, now) => stand(now), FIGURES_MS)
      }
      desk.dispatch(handRested(desk.getState().editor.history?.present ?? null))
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
      try {
        const { snapshot: lit } = desk.getState().editor
        const order = [...preset.snapshots.keys()].sort(
          (i, j) => Number(preset.snapshots[j].id === lit) - Number(preset.snapshots[i].id === lit),
        )
        // one after another: a core is left to the page
        for (const home of order) {
          while (performance.now() - handsAt < STILL_MS) await desk.delay(STILL_MS / 4)
          const { id: snapshot } = preset.snapshots[home]
          const reading = await errand.run(crew, {
            task: 'read',
            args: [renderingOf(preset, snapshot, 'live')],
            key: null,
            rank: 'idle',
            home,
          })
          desk.dispatch(snapshotRead({ snapshot, reading }))
        }
        desk.dispatch(readingDone(performance.now() - startedAt))
      } catch (error) {
        if (!(error instanceof Cancelled || error instanceof TaskAbortError))
          desk.dispatch(notified({ kind: 'warning', text: `The checks could not hear the preset: ${reasonOf(error)}` }))
      }
    },
  })
}
