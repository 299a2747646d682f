import { useSyncExternalStore } from 'react'
import { browserStorage } from '../storage/storage'

const KEY = 'fulgor.singleKeys'
const CHANGED = 'fulgor:single-keys'

/** Whether keys without Ctrl or Cmd act; some speak to their computer or rest a hand on the keyboard. */
export const singleKeysOn = (): boolean => browserStorage.read(KEY) !== 'off'

export function setSingleKeys(on: boolean): void {
  browserStorage.write(KEY, on ? 'on' : 'off')
  dispatchEvent(new Event(CHANGED))
}

function subscribe(changed: () => void): () => void {
  addEventListener(CHANGED, changed)
  return () => removeEventListener(CHANGED, changed)
}

export const useSingleKeys = (): boolean => useSyncExternalStore(subscribe, singleKeysOn)
