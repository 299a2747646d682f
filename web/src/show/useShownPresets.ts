import { useEffect, useMemo, useState } from 'react'
import type { StoredPreset } from '@fulgor/core/api'
import type { ShownPreset } from '@fulgor/core/plan'
import { presetsOf, type Show } from '@fulgor/core/show'
import { fetchPreset } from '../state/fetched'
import { useAppDispatch } from '../state/store'

export interface ShownPresets {
  /** Those that are on the shelf, in the order in which the show needs them. */
  readonly presets: readonly ShownPreset[]
  readonly stored: ReadonlyMap<string, StoredPreset | null>
  /** Every one has been asked for. */
  readonly whole: boolean
  /** Asks again, after something was stored. */
  readonly refresh: () => void
}

/** The presets that a show plays, as the shelf has them now. */
export function useShownPresets(show: Show | null): ShownPresets {
  const dispatch = useAppDispatch()
  const [stored, setStored] = useState<ReadonlyMap<string, StoredPreset | null>>(new Map())
  const [round, setRound] = useState(0)
  const ids = useMemo(() => (show ? presetsOf(show) : []), [show])
  const key = ids.join()
  useEffect(() => {
    let here = true
    for (const id of key.split(',').filter(Boolean))
      // held until it is here: another view may be waiting for the same answer
      fetchPreset(dispatch, id).then(
        (found) => {
          if (here) setStored((all) => new Map(all).set(id, found))
        },
        () => {
          if (here) setStored((all) => new Map(all).set(id, null))
        },
      )
    return () => {
      here = false
    }
  }, [key, dispatch, round])
  const presets = useMemo(
    () =>
      key
        .split(',')
        .filter(Boolean)
        .flatMap((id) => {
          const found = stored.get(id)
          return found ? [{ id, preset: found.document }] : []
        }),
    [key, stored],
  )
  return { presets, stored, whole: ids.every((id) => stored.has(id)), refresh: () => setRound((n) => n + 1) }
}
