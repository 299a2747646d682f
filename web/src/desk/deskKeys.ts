import type { Preset } from '@fulgor/core/preset'
import { isTyping, isWriting } from '../ui/isTyping'
import { picked } from '../state/cells'
import { reachChosen, redone, snapshotChosen, undone } from '../state/editor'
import { levelSnapshots } from '../state/levelling'
import { bypassStages } from '../state/stageBlocks'
import { dryChanged, judgingChanged, sideChosen } from '../state/player'
import type { AppDispatch, RootState } from '../state/store'
import { tap } from '../state/tempo'
import { setToUnity } from '../state/unity'

/** What a key may act on. */
export interface DeskState {
  readonly state: RootState
  readonly preset: Preset
  readonly dispatch: AppDispatch
  readonly player: { toggle: () => Promise<void> }
  readonly save: () => Promise<void>
  readonly event: KeyboardEvent
}

/** A key that works wherever a preset is open. This map is what handles it and what the list of keys shows. */
export interface DeskKey {
  /** As it is shown. */
  readonly keys: string
  readonly words: string
  /** With Ctrl or Cmd; others can be switched off. */
  readonly command?: true
  readonly is: (key: string, event: KeyboardEvent) => boolean
  readonly act: (desk: DeskState) => void
}

const letter =
  (wanted: string, shift: boolean | null = false) =>
  (key: string, event: KeyboardEvent) =>
    key === wanted && (shift === null || event.shiftKey === shift)

export const DESK_KEYS: readonly DeskKey[] = [
  { keys: 'Space', words: 'Play, stop', is: (key) => key === ' ', act: ({ player }) => void player.toggle() },
  {
    keys: '1 – 8',
    words: 'Choose a snapshot (not while in a snapshot’s cell: there it types); edits then change only that one',
    is: (key) => /^[1-8]$/.test(key),
    act: ({ preset, event, dispatch }) => {
      const snapshot = preset.snapshots.at(Number(event.key) - 1)
      if (snapshot) dispatch(snapshotChosen(snapshot.id))
    },
  },
  {
    keys: 'E',
    words: 'Edits change the lit snapshot alone, or all that share the value',
    is: letter('e'),
    act: ({ state, dispatch }) => dispatch(reachChosen(state.editor.reach === 'own' ? 'shared' : 'own')),
  },
  {
    keys: 'B held',
    words: 'Hear the chosen stage switched over, level-matched',
    is: letter('b'),
    act: ({ event, dispatch }) => event.repeat || dispatch(judgingChanged('switched')),
  },
  { keys: 'Shift + B', words: 'Bypass the chosen stage, or all that are selected', is: letter('b', true), act: bypass },
  {
    keys: 'D',
    words: 'Judge dry: mute all modulation, delay and reverb',
    is: letter('d'),
    act: ({ state, dispatch }) => dispatch(dryChanged(!state.player.dry)),
  },
  {
    keys: 'X',
    words: 'Hear only what the chosen stage adds or takes away',
    is: letter('x'),
    act: ({ state, dispatch }) => dispatch(judgingChanged(state.player.judging === 'difference' ? 'none' : 'difference')),
  },
  {
    keys: 'A',
    words: 'Compare with the saved version, or with the recording under Match; level-matched',
    is: letter('a'),
    act: ({ state, dispatch }) =>
      (state.editor.saved ?? state.player.against) && dispatch(sideChosen(state.player.side === 'A' ? 'B' : 'A')),
  },
  {
    keys: 'U',
    words: 'Set the chosen stage to unity',
    is: letter('u'),
    act: ({ state, dispatch }) => state.editor.stage && void dispatch(setToUnity(state.editor.stage)),
  },
  { keys: 'L', words: 'Level all snapshots', is: letter('l'), act: ({ dispatch }) => dispatch(levelSnapshots()) },
  {
    keys: 'T',
    words: 'Tap the tempo',
    is: letter('t'),
    act: ({ event, dispatch }) => event.repeat || dispatch(tap(event.timeStamp)),
  },
  { keys: 'Ctrl/Cmd + Z', words: 'Undo', command: true, is: letter('z'), act: ({ dispatch }) => dispatch(undone()) },
  { keys: 'Ctrl/Cmd + Shift + Z', words: 'Redo', command: true, is: letter('z', true), act: ({ dispatch }) => dispatch(redone()) },
  { keys: 'Ctrl/Cmd + Y', words: 'Redo', command: true, is: letter('y', null), act: ({ dispatch }) => dispatch(redone()) },
  { keys: 'Ctrl/Cmd + S', words: 'Save a version', command: true, is: letter('s', null), act: ({ save }) => void save() },
]

function bypass({ state, dispatch }: DeskState): void {
  const rows = picked(state)
  if (rows) dispatch(bypassStages(rows.snapshots.length === 0 ? rows.stages : [state.editor.stage ?? rows.stages[0]]))
}

/** What the key of an event does here, or null where something else has the focus that needs it. */
export function deskKeyOf(event: KeyboardEvent, single: boolean): DeskKey | null {
  const target = event.target as HTMLElement
  if (event.defaultPrevented || event.altKey) return null
  if (target.closest('[role=dialog], [role=menu], [role=listbox]:not([data-desk-keys])')) return null
  const key = event.key.toLowerCase()
  const command = event.ctrlKey || event.metaKey
  const found = DESK_KEYS.find((k) => (k.command ?? false) === command && k.is(key, event))
  if (!found) return null
  if (command) return key === 's' || !isWriting(target) ? found : null
  if (!single && key !== ' ') return null
  if (isTyping(target)) return null
  // a focused button, link or box is pressed by Space
  return key === ' ' && target.closest('button, a[href], summary, input:not([type=range])') ? null : found
}
