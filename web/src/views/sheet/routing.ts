import { findLane, placeAt, placeOf, rowsOf, splitsOf, stepPlace, type Edit, type Preset } from '@fulgor/core/preset'
import { renderingOf } from '../../threads/riffSource'
import { renderers } from '../../threads/crews'
import { reasonOf } from '../../background/tasks'
import { edit, landsIn, newId, presentPreset } from '../../state/actions'
import { between } from '../../state/cells'
import { stageChosen } from '../../state/editor'
import { notified } from '../../state/notices'
import { moveTogether, stepStages } from '../../state/stageBlocks'
import type { Thunk } from '../../state/store'

/** Pixels to the side by which a drag means a lane and not a place. */
export const LANE_DRAG = 28

/** A stage one line up or down, with those that are selected with it; a lane one place among its lanes. */
export const stepRow =
  (id: string, direction: 1 | -1): Thunk =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    if (!preset) return
    const range = between(preset, getState().cells.range)
    if (range && range.snapshots.length === 0 && range.stages.length > 1 && range.stages.includes(id)) {
      dispatch(stepStages(range.stages, direction))
      return
    }
    const lane = findLane(preset, id)
    if (lane) {
      const index = lane.split.lanes.indexOf(lane.lane) + direction
      if (index >= 0 && index < lane.split.lanes.length) dispatch(edit({ type: 'moveLane', lane: id, index }))
      return
    }
    const place = stepPlace(preset, id, direction)
    if (place) dispatch(edit({ type: 'moveStage', stage: id, ...place }))
  }

/** A new lane beside a stage; `beside` moves another stage into it. */
export const splitBeside =
  (stage: string, beside?: string): Thunk =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    if (!preset) return
    const lanes = [newId(), newId()] as const
    dispatch(edit({ type: 'split', stage, split: newId(), lanes, beside }))
    if (presentPreset(getState()) !== preset) dispatch(stageChosen({ stage: beside ?? lanes[1], fresh: true }))
  }

/** Takes a stage out of its lane, to the place behind the sum. */
export const leaveLane =
  (stage: string): Thunk =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    const lane = preset ? placeOf(preset, stage)?.lane : undefined
    if (!preset || !lane) return
    const split = findLane(preset, lane)?.split
    const place = split ? placeOf(preset, split.id) : undefined
    if (place) dispatch(edit({ type: 'moveStage', stage, lane: place.lane, index: place.index + 1 }))
  }

/** Delays the lanes beside a stage's own, so that a voice that comes late is in step with them. */
export const delayOthers =
  (stage: string, ms: number): Thunk =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    const own = preset ? placeOf(preset, stage)?.lane : undefined
    const split = preset && own ? findLane(preset, own)?.split : undefined
    if (!split) return
    const edits = split.lanes
      .filter((lane) => lane.id !== own)
      .map((lane): Edit => ({
        type: 'setParam',
        stage: lane.id,
        snapshot: null,
        param: 'delay',
        value: Math.max(ms, Number(lane.params.delay)),
      }))
    dispatch(edit({ type: 'all', edits }))
  }

/** What the end of a drag over another row means; `together` are the selected stages that move with it. */
export const dropRow =
  (id: string, over: string, sideways: number, together: readonly string[] = [id]): Thunk =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    if (!preset) return
    const lane = findLane(preset, id)
    if (lane) {
      if (sideways < -LANE_DRAG) dispatch(edit({ type: 'dissolve', split: lane.split.id }))
      else {
        const target = laneIndexAt(
          preset,
          lane.split.lanes.map((l) => l.id),
          over,
        )
        if (target >= 0) dispatch(edit({ type: 'moveLane', lane: id, index: target }))
      }
      return
    }
    if (sideways > LANE_DRAG) {
      const isStage = rowsOf(preset.chain).some((row) => row.id === over && row.kind === 'stage')
      if (isStage) dispatch(splitBeside(over, over === id ? undefined : id))
    } else if (sideways < -LANE_DRAG && over === id) dispatch(leaveLane(id))
    else {
      const place = placeAt(preset, id, over)
      if (place)
        dispatch(edit(together.length > 1 ? moveTogether(preset, together, id, place) : { type: 'moveStage', stage: id, ...place }))
    }
  }

/** Index of the lane that is, or that holds, the row `over`. */
function laneIndexAt(preset: Preset, lanes: readonly string[], over: string): number {
  for (let id: string | null = over; id !== null;) {
    const index = lanes.indexOf(id)
    if (index >= 0) return index
    const around: string | null | undefined = findLane(preset, id) ? undefined : placeOf(preset, id)?.lane
    id = around ?? null
  }
  return -1
}

/** Sets the lanes' levels so that each brings the same loudness; the sum of their levels in dB stays. */
export const matchLanes =
  (splitId: string): Thunk<Promise<void>> =>
  async (dispatch, getState) => {
    const { editor, player } = getState()
    const preset = presentPreset(getState())
    const snapshot = editor.snapshot
    if (!preset || !snapshot) return
    const found = lanesOf(preset, splitId)
    const warn = (text: string) => dispatch(notified({ kind: 'warning', text }))
    try {
      const lufs = await renderers.run({
        task: 'lanes',
        args: [renderingOf(preset, snapshot, player.quality), found.map((l) => l.id)],
        key: null,
      })
      if (presentPreset(getState()) !== preset) {
        warn('The lanes were not matched: the sheet changed meanwhile. Try again.')
        return
      }
      const heard = found.flatMap((lane) => {
        const value = lufs[lane.id]
        return value == null ? [] : [{ ...lane, lufs: value }]
      })
      if (heard.length < 2) {
        warn('The lanes were not matched: fewer than two of them are heard in this snapshot.')
        return
      }
      const mean = heard.reduce((sum, lane) => sum + lane.lufs, 0) / heard.length
      const edits = heard.map((lane): Extract<Edit, { type: 'setParam' }> => ({
        type: 'setParam',
        stage: lane.id,
        snapshot: landsIn(getState(), lane.id, 'level'),
        param: 'level',
        value: Math.max(-60, Math.min(12, Math.round((lane.level + mean - lane.lufs) * 100) / 100)),
      }))
      const shared = edits.every((e) => e.snapshot === null)
      dispatch(edit({ type: 'all', edits }))
      const spread = Math.max(...heard.map((l) => l.lufs)) - Math.min(...heard.map((l) => l.lufs))
      dispatch(
        notified({
          kind: 'note',
          text: `The lanes were ${spread.toFixed(1)} LU apart; ${shared ? 'in every snapshot that shares their levels' : 'in this snapshot'} each now brings ${mean.toFixed(1).replace('-', '\u2212')} LUFS.`,
        }),
      )
    } catch (error) {
      warn(`The lanes were not matched: ${reasonOf(error)}`)
    }

    function lanesOf(from: Preset, id: string): { id: string; level: number }[] {
      const lanes = splitsOf(from.chain).find((split) => split.id === id)?.lanes ?? []
      const own = from.snapshots.find((s) => s.id === snapshot)?.stages
      return lanes.map((lane) => ({ id: lane.id, level: Number(own?.[lane.id]?.params?.level ?? lane.params.level) }))
    }
  }
