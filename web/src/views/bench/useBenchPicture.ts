import { useEffect, useRef, useState } from 'react'
import type { MicBench } from '@fulgor/core/cabinet'
import type { BenchPicture } from '../../audio/cabinet.worker'
import { cabinetWorker } from '../../audio/workers'

export interface Pictured {
  readonly picture: BenchPicture | null
  readonly problem: string | null
  /** ms from the change of the bench to its new picture. */
  readonly ms: number | null
}

/** Responses of a bench, computed beside the page; while one is computed only the newest wish waits. */
export function useBenchPicture(bench: MicBench, selected: string): Pictured {
  const [state, setState] = useState<Pictured>({ picture: null, problem: null, ms: null })
  const busy = useRef(false)
  const wanted = useRef<{ bench: MicBench; selected: string; at: number } | null>(null)
  useEffect(() => {
    wanted.current = { bench, selected, at: performance.now() }
    const next = async () => {
      const job = wanted.current
      if (busy.current || !job) return
      busy.current = true
      wanted.current = null
      try {
        const picture = await cabinetWorker().picture(job.bench, job.selected)
        setState({ picture, problem: null, ms: performance.now() - job.at })
      } catch (error) {
        setState((s) => ({ ...s, problem: error instanceof Error ? error.message : String(error) }))
      } finally {
        busy.current = false
      }
      void next()
    }
    void next()
  }, [bench, selected])
  return state
}
