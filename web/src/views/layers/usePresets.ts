import { useEffect, useState } from 'react'
import type { Layer, Preset } from '@fulgor/core/preset'
import { api } from '../../api/api'
import { useAppDispatch } from '../../state/store'

/** Other presets that layers are of, by id; null where one is no longer on the shelf. */
export function usePresets(layers: readonly Layer[]): ReadonlyMap<string, Preset | null> {
  const dispatch = useAppDispatch()
  const [loaded, setLoaded] = useState<ReadonlyMap<string, Preset | null>>(new Map())
  const ids = [...new Set(layers.flatMap((l) => l.preset ?? []))].sort().join()
  useEffect(() => {
    let here = true
    const requests = ids
      .split(',')
      .filter(Boolean)
      .map((id) => {
        const request = dispatch(api.endpoints.preset.initiate(id, { forceRefetch: true }))
        void request.then(({ data }) => {
          if (here) setLoaded((all) => new Map(all).set(id, data?.document ?? null))
        })
        return request
      })
    return () => {
      here = false
      for (const request of requests) request.unsubscribe()
    }
  }, [ids, dispatch])
  return loaded
}
