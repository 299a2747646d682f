import { useCallback, useEffect, useMemo, useState } from 'react'
import type { Preset } from '@fulgor/core/preset'
import { Errands } from '../../background/errand'
import { Cancelled, reasonOf } from '../../background/tasks'
import { findWay, firstCandidates, type Of, type Way } from './findWay'

export interface Finding {
  /** What it was looked for; another preset or recording makes it old. */
  readonly of: { readonly preset: Preset; readonly snapshot: string; readonly key: string } | null
  readonly way: Way | null
  /** Only what is known at once: nothing was searched yet. */
  readonly first: boolean
  readonly doing: string
  readonly share: number
  readonly running: boolean
  readonly problem: string | null
}

const NOTHING: Finding = { of: null, way: null, first: false, doing: '', share: 0, running: false, problem: null }

const ofWhat = ({ preset, snapshot, wanted }: Of) => ({ preset, snapshot, key: JSON.stringify(wanted) })

/** The search for what closes the gap: begun, cancelled, and what it has found so far. A cancelled one leaves nothing. */
export function useFinding() {
  const errands = useMemo(() => new Errands(), [])
  const [finding, setFinding] = useState<Finding>(NOTHING)
  useEffect(() => errands.end, [errands])
  const failed = (error: unknown) => {
    if (!(error instanceof Cancelled)) setFinding((f) => ({ ...f, running: false, problem: reasonOf(error) }))
  }
  const cancel = () => {
    errands.end()
    setFinding(NOTHING)
  }
  const find = (of: Of) => {
    const errand = errands.begin()
    setFinding({ ...NOTHING, of: ofWhat(of), running: true, doing: 'Beginning' })
    findWay(of, errand, (way, doing, share) => {
      if (!errand.isOver) setFinding((f) => ({ ...f, way, doing, share }))
    }).then((way) => setFinding((f) => (errand.isOver ? f : { ...f, way, running: false, doing: '', share: 1 })), failed)
  }
  /** What is near at once, where nothing was searched yet. */
  const first = useCallback(
    (of: Of) => {
      const errand = errands.begin()
      firstCandidates(of, errand).then(
        (way) => {
          if (!errand.isOver && way) setFinding((f) => (f.way && !f.first ? f : { ...NOTHING, of: ofWhat(of), way, first: true }))
        },
        // a search tells what is wrong
        () => undefined,
      )
    },
    [errands],
  )
  return { finding, find, first, cancel }
}
