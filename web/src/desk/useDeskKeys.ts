import { useEffect } from 'react'
import { session } from '../audio/session'
import { singleKeysOn } from '../ui/singleKeys'
import { presentPreset } from '../state/actions'
import { judgingChanged } from '../state/player'
import { useAppStore } from '../state/store'
import { deskKeyOf } from './deskKeys'

/** Keys that work wherever a preset is open, but for text fields, menus and dialogs. */
export function useDeskKeys(): void {
  const { player, save } = session
  const store = useAppStore()
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const state = store.getState()
      const preset = presentPreset(state)
      const found = preset ? deskKeyOf(event, singleKeysOn()) : null
      if (!preset || !found) return
      event.preventDefault()
      found.act({ state, preset, dispatch: store.dispatch, player, save, event })
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
