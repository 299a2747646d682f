import { useEffect } from 'react'

/** Keeps the screen awake for as long as the page is looked at; where the browser cannot, it does as it is set. */
export function useAwake(): void {
  useEffect(() => {
    let lock: WakeLockSentinel | null = null
    let left = false
    const hold = async () => {
      if (left || document.visibilityState !== 'visible' || !('wakeLock' in navigator)) return
      lock = await navigator.wakeLock.request('screen').catch(() => null)
    }
    const again = () => void hold()
    again()
    document.addEventListener('visibilitychange', again)
    return () => {
      left = true
      document.removeEventListener('visibilitychange', again)
      void lock?.release().catch(() => undefined)
    }
  }, [])
}
