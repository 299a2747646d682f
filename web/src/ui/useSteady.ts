import { useCallback, useLayoutEffect, useRef } from 'react'

/** A function that stays the same and calls the newest one: for what is drawn anew only when something that it shows has changed. */
export function useSteady<A extends unknown[]>(call: (...args: A) => void): (...args: A) => void {
  const newest = useRef(call)
  useLayoutEffect(() => {
    newest.current = call
  })
  return useCallback((...args: A) => newest.current(...args), [])
}
