import { canSplit, cellChanges, findStage, MAX_LANES, MAX_SNAPSHOTS, partsOf, resolveStage, stepPlace } from '@fulgor/core/preset'
import { addSnapshot, edit, newId, presentPreset } from '../../state/actions'
import { copy, paste } from '../../state/cells'
import { panelChosen, snapshotChosen, stageChosen } from '../../state/editor'
import { levelSnapshots } from '../../state/levelling'
import { bypassStages, duplicateStages, removeStages } from '../../state/stageBlocks'
import type { Thunk } from '../../state/store'
import type { Action } from '../../ui/actionList'
import { focusChosen } from './focusRow'
import { leaveLane, matchLanes, splitBeside, stepRow } from './routing'
import { sheetRows } from './rows'

const toClipboard = (text: string | null): void => {
  // a browser may keep its clipboard to itself; ours holds it anyway
  if (text !== null) void navigator.clipboard.writeText(text).catch(() => undefined)
}

/** What can be done with a row: a stage or a lane. */
export const stageActions =
  (id: string): Thunk<readonly Action[]> =>
  (dispatch, getState) => {
    const state = getState()
    const preset = presentPreset(state)
    const stage = preset ? findStage(preset, id) : undefined
    const row = preset ? sheetRows(preset.chain).find((r) => r.id === id) : undefined
    const { snapshot } = state.editor
    if (!preset || !stage || !row) return []
    const lane = row.kind === 'lane' ? row.split : null
    const asBase = !snapshot || cellChanges(preset, stage, snapshot).length === 0
    const then = (act: () => void) => () => {
      dispatch(stageChosen({ stage: id }))
      act()
      dispatch(focusChosen())
    }
    const { on } = resolveStage(preset, stage, snapshot)
    return [
      {
        label: lane ? (on ? 'Mute' : 'Unmute') : on ? 'Bypass' : 'Switch on',
        keys: 'Shift B',
        act: then(() => dispatch(bypassStages([id]))),
      },
      {
        label: 'Move up',
        keys: 'Alt ↑',
        act: then(() => dispatch(stepRow(id, -1))),
        off: lane ? row.number === 1 : stepPlace(preset, id, -1) === null,
      },
      {
        label: 'Move down',
        keys: 'Alt ↓',
        act: then(() => dispatch(stepRow(id, 1))),
        off: lane ? row.number === lane.lanes.length : stepPlace(preset, id, 1) === null,
      },
      ...(lane
        ? [
            {
              label: 'Add a lane',
              act: () => dispatch(edit({ type: 'addLane', split: lane.id, lane: newId() })),
              off: lane.lanes.length >= MAX_LANES,
            },
            { label: 'Match the sides', act: () => void dispatch(matchLanes(lane.id)) },
            { label: 'Dissolve the lanes', keys: 'Alt ←', act: () => dispatch(edit({ type: 'dissolve', split: lane.id })) },
          ]
        : [
            { label: 'Duplicate', act: then(() => dispatch(duplicateStages([id]))) },
            { label: 'New lane beside it', keys: 'Alt →', act: () => dispatch(splitBeside(id)), off: !canSplit(preset, id) },
            { label: 'Out of its lane', keys: 'Alt ←', act: () => dispatch(leaveLane(id)), off: row.depth === 0 },
          ]),
      {
        label: lane ? 'Copy lane' : 'Copy stage',
        keys: 'Ctrl/Cmd C',
        act: () => toClipboard(dispatch(copy({ stages: [id], snapshots: [] }))),
      },
      { label: 'Paste behind it', keys: 'Ctrl/Cmd V', act: then(() => dispatch(paste(null))), off: state.cells.block === null },
      {
        label: 'Reset this snapshot to base',
        keys: 'Delete',
        act: () => snapshot && dispatch(edit({ type: 'resetCell', stage: id, snapshot })),
        off: asBase,
      },
      {
        label: 'Copy this snapshot to base',
        act: () => snapshot && dispatch(edit({ type: 'cellToBase', stage: id, snapshot })),
        off: asBase,
      },
      {
        label: lane ? 'Remove lane' : 'Remove stage',
        keys: 'Delete',
        act: () => {
          dispatch(removeStages([id]))
          dispatch(focusChosen())
        },
      },
    ]
  }

/** What can be done with one cell. */
export const cellActions =
  (id: string, snapshot: string, type: () => void): Thunk<readonly Action[]> =>
  (dispatch, getState) => {
    const state = getState()
    const preset = presentPreset(state)
    const stage = preset ? findStage(preset, id) : undefined
    if (!preset || !stage) return []
    const asBase = cellChanges(preset, stage, snapshot).length === 0
    const { on } = resolveStage(preset, stage, snapshot)
    const block = { stages: [id], snapshots: [snapshot] }
    const onto = () => {
      dispatch(stageChosen({ stage: id, snapshot }))
      dispatch(paste(null))
    }
    return [
      { label: 'Type a value', keys: 'F2', act: type },
      {
        label: on ? 'Off in this snapshot' : 'On in this snapshot',
        act: () => dispatch(edit({ type: 'setOn', stage: id, snapshot, on: !on })),
      },
      { label: 'Copy values', keys: 'Ctrl/Cmd C', act: () => toClipboard(dispatch(copy(block))) },
      { label: 'Paste values', keys: 'Ctrl/Cmd V', act: onto, off: state.cells.block === null },
      { label: 'Reset to base', keys: 'Delete', act: () => dispatch(edit({ type: 'resetCell', stage: id, snapshot })), off: asBase },
      { label: 'Copy to base', act: () => dispatch(edit({ type: 'cellToBase', stage: id, snapshot })), off: asBase },
    ]
  }

/** What can be done with a snapshot. */
export const snapshotActions =
  (id: string): Thunk<readonly Action[]> =>
  (dispatch, getState) => {
    const preset = presentPreset(getState())
    const index = preset ? preset.snapshots.findIndex((s) => s.id === id) : -1
    if (!preset || index < 0) return []
    const count = preset.snapshots.length
    const all = partsOf(preset.chain).map((s) => s.id)
    const move = (step: number) => () => dispatch(edit({ type: 'moveSnapshot', snapshot: id, index: index + step }))
    const duplicate = () => {
      const made = dispatch(addSnapshot(id))
      if (made) dispatch(snapshotChosen(made))
    }
    const open = () => {
      dispatch(snapshotChosen(id))
      dispatch(panelChosen('snapshot'))
    }
    return [
      { label: 'Rename, see its spectrum', act: open },
      { label: 'Duplicate', act: duplicate, off: count >= MAX_SNAPSHOTS },
      { label: 'Level this one', act: () => dispatch(levelSnapshots(id)) },
      { label: 'Copy its values', act: () => toClipboard(dispatch(copy({ stages: all, snapshots: [id] }))) },
      { label: 'Paste values onto it', act: () => dispatch(paste(null, [id])) },
      { label: 'Take the base', act: () => dispatch(edit({ type: 'baseToSnapshot', snapshot: id })) },
      { label: 'Make this the base', act: () => dispatch(edit({ type: 'snapshotToBase', snapshot: id })) },
      { label: 'Move left', keys: 'Alt ←', act: move(-1), off: index === 0 },
      { label: 'Move right', keys: 'Alt →', act: move(1), off: index === count - 1 },
      { label: 'Remove', act: () => dispatch(edit({ type: 'removeSnapshot', snapshot: id })), off: count === 1 },
    ]
  }
