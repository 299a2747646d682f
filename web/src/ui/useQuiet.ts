import { useEffect, useState } from 'react'

/** A value once it has stood still for so many ms. */
export function useQuiet<T>(value: T, ms: number): T {
  const [quiet, setQuiet] = useState(value)
  useEffect(() => {
    const timer = setTimeout(() => setQuiet(value), ms)
    return () => clearTimeout(timer)
  }, [value, ms])
  return quiet
}
