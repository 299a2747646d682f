import { modelOf } from '@fulgor/core/catalogue'
import { clippingBehind, findStage, resolveStage, type Preset } from '@fulgor/core/preset'
import { renderingOf } from '../threads/riffSource'
import { renderers } from '../threads/crews'
import type { UnityPlace } from '../threads/levels'
import { reasonOf } from '../background/tasks'
import { edit, landsIn, presentPreset } from './actions'
import { notified } from './notices'
import type { Thunk } from './store'
import { figure } from '../ui/format'

/** At its own output what stands before something that clips: what clips evens out the rest. */
export const unityPlace = (preset: Preset, snapshot: string, stage: string): UnityPlace =>
  clippingBehind(preset, snapshot, stage) ? 'own' : 'end'

const PLACES: Readonly<Record<UnityPlace, string>> = { own: 'its own output', end: 'the preset’s end' }

const more = (lu: number | null): string =>
  lu === null ? 'on or off is silent' : Math.abs(lu) < 0.05 ? 'on and off are alike' : `on is ${figure(lu, 1, true)} LU`

/**
 * Measures and sets the level at which a stage is as loud on as off in the lit snapshot, on the current riff, and tells what that does
 * at its own output and at the end.
 * @param where as {@link unityPlace} by itself
 */
export const setToUnity =
  (stageId: string, where?: UnityPlace): Thunk<Promise<void>> =>
  async (dispatch, getState) => {
    const { editor, player } = getState()
    const preset = presentPreset(getState())
    const stage = preset ? findStage(preset, stageId) : undefined
    if (!preset || !stage || !editor.snapshot) return
    const { name } = modelOf(stage.model)
    const place = where ?? unityPlace(preset, editor.snapshot, stageId)
    const before = Number(resolveStage(preset, stage, editor.snapshot).params.level)
    try {
      const found = await renderers.run({
        task: 'unity',
        args: [renderingOf(preset, editor.snapshot, player.quality), stageId, place],
        key: null,
      })
      if (presentPreset(getState()) !== preset) throw new Error('the sheet changed meanwhile. Try again.')
      const { level, residual, limited } = found
      const clipping = clippingBehind(preset, editor.snapshot, stageId)
      if (limited && place === 'end' && clipping)
        throw new Error(
          `${modelOf(clipping.model).name} behind it clips and evens out what its level does: even at ${figure(level)} dB ${figure(Math.abs(residual))} LU remain at the end. Set it to unity at its own output.`,
        )
      dispatch(edit({ type: 'setParam', stage: stageId, snapshot: landsIn(getState(), stageId, 'level'), param: 'level', value: level }))
      const off = Math.abs(residual)
      const other: UnityPlace = place === 'own' ? 'end' : 'own'
      const told = `level ${figure(level, 2)} dB, before ${figure(before, 2)} dB`
      dispatch(
        notified(
          limited
            ? {
                kind: 'warning',
                text: `${name}: its level ends at ${figure(level)} dB; ${figure(off)} LU remain between on and off at ${PLACES[place]}.`,
              }
            : {
                kind: 'note',
                text: `${name} at unity at ${PLACES[place]}: ${told}. On and off within ${figure(Math.max(0.01, off), 2)} LU there; at ${PLACES[other]} ${more(found.more[other])}.`,
              },
        ),
      )
    } catch (error) {
      dispatch(notified({ kind: 'warning', text: `${name} was not set to unity: ${reasonOf(error)}` }))
    }
  }
