import { modelOf } from '@fulgor/core/catalogue'
import { findStage } from '@fulgor/core/preset'
import { renderingOf } from '../threads/riffSource'
import { renderers } from '../threads/crews'
import { reasonOf } from '../background/tasks'
import { edit, landsIn, presentPreset } from './actions'
import { notified } from './notices'
import type { Thunk } from './store'
import { figure } from '../ui/format'

/** Measures and sets the level at which the lit snapshot is as loud with a stage as without it, on the current riff. */
export const setToUnity =
  (stageId: string): Thunk<Promise<void>> =>
  async (dispatch, getState) => {
    const { editor, player } = getState()
    const preset = presentPreset(getState())
    const stage = preset ? findStage(preset, stageId) : undefined
    if (!preset || !stage || !editor.snapshot) return
    const { name } = modelOf(stage.model)
    try {
      const { level, residual, limited } = await renderers.run({
        task: 'unity',
        args: [renderingOf(preset, editor.snapshot, player.quality), stageId],
        key: null,
      })
      if (presentPreset(getState()) !== preset) throw new Error('the sheet changed meanwhile. Try again.')
      dispatch(edit({ type: 'setParam', stage: stageId, snapshot: landsIn(getState(), stageId, 'level'), param: 'level', value: level }))
      const off = Math.abs(residual)
      dispatch(
        notified(
          limited
            ? { kind: 'warning', text: `${name}: its level ends at ${figure(level)} dB; ${figure(off)} LU remain between on and off.` }
            : {
                kind: 'note',
                text: `${name} at unity: level ${figure(level, 2)} dB, on and off within ${figure(Math.max(0.01, off), 2)} LU.`,
              },
        ),
      )
    } catch (error) {
      dispatch(notified({ kind: 'warning', text: `${name} was not set to unity: ${reasonOf(error)}` }))
    }
  }
