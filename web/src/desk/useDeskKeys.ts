import { useEffect } from 'react'
import { findStage, resolveStage } from '@fulgor/core/preset'
import { isTyping } from '../app/Frame'
import { useSession } from '../app/session'
import { edit, landsIn, presentPreset } from '../state/actions'
import { reachChosen, redone, snapshotChosen, undone } from '../state/editor'
import { dryChanged, judgingChanged, sideChosen } from '../state/player'
import { levelSnapshots } from '../state/levelling'
import { tap } from '../state/tempo'
import { useAppStore } from '../state/store'
import { setToUnity } from '../state/unity'

/** Keys that work wherever a preset is open, but for text fields, menus and dialogs. */
export function useDeskKeys(): void {
  const { player, save } = useSession()
  const store = useAppStore()
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const state = store.getState()
      const preset = presentPreset(state)
      if (!preset || event.defaultPrevented) return
      const target = event.target as HTMLElement
      if (target.closest('[role=dialog], [role=menu], [role=listbox]:not([data-desk-keys])')) return
      const command = event.ctrlKey || event.metaKey
      const key = event.key.toLowerCase()
      const act = commandFor()
      if (!act) return
      event.preventDefault()
      act()

      function commandFor(): (() => void) | null {
        if (command && key === 's') return () => void save()
        if (isTyping(target)) return null
        if (command && key === 'z') return () => store.dispatch(event.shiftKey ? redone() : undone())
        if (command && key === 'y') return () => store.dispatch(redone())
        if (command || event.altKey) return null
        if (event.key === ' ') return () => void player.toggle()
        if (key === 'l') return () => store.dispatch(levelSnapshots())
        if (key === 'a') return state.editor.saved ? () => store.dispatch(sideChosen(state.player.side === 'A' ? 'B' : 'A')) : null
        if (key === 'b') return event.shiftKey ? bypass : () => event.repeat || store.dispatch(judgingChanged('switched'))
        if (key === 't') return () => event.repeat || store.dispatch(tap(event.timeStamp))
        if (key === 'e') return () => store.dispatch(reachChosen(state.editor.reach === 'own' ? 'shared' : 'own'))
        if (key === 'd') return () => store.dispatch(dryChanged(!state.player.dry))
        if (key === 'x') return () => store.dispatch(judgingChanged(state.player.judging === 'difference' ? 'none' : 'difference'))
        if (key === 'u') return () => state.editor.stage && void store.dispatch(setToUnity(state.editor.stage))
        const snapshot = /^[1-8]$/.test(key) ? preset?.snapshots[Number(key) - 1] : undefined
        return snapshot ? () => store.dispatch(snapshotChosen(snapshot.id)) : null
      }

      function bypass(): void {
        const stage = preset && state.editor.stage ? findStage(preset, state.editor.stage) : undefined
        if (!preset || !stage) return
        const { on } = resolveStage(preset, stage, state.editor.snapshot)
        store.dispatch(edit({ type: 'setOn', stage: stage.id, snapshot: landsIn(state, stage.id, 'on'), on: !on }))
      }
    }
    const release = () => {
      if (store.getState().player.judging === 'switched') store.dispatch(judgingChanged('none'))
    }
    const onKeyUp = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() === 'b') release()
    }
    addEventListener('keydown', onKey)
    addEventListener('keyup', onKeyUp)
    // a key let go in another window is never heard of
    addEventListener('blur', release)
    return () => {
      removeEventListener('keydown', onKey)
      removeEventListener('keyup', onKeyUp)
      removeEventListener('blur', release)
    }
  }, [player, save, store])
}
