import { useEffect, useMemo, useState } from 'react'
import type { LayoutJob, LayoutProposal } from '@fulgor/core/plan'
import { Errands } from '../../background/errand'
import { Cancelled, reasonOf } from '../../background/tasks'
import { newId } from '../../state/ids'
import { renderers } from '../../threads/crews'

/** Names that a search can need for what is new. */
const NAMES = 220

export interface Laying {
  /** What it was sought for. */
  readonly of: LayoutJob | null
  readonly proposal: LayoutProposal | null
  readonly share: number
  readonly running: boolean
  readonly ms: number | null
  readonly problem: string | null
}

const NOTHING: Laying = { of: null, proposal: null, share: 0, running: false, ms: null, problem: null }

/** The search for a better layout: begun, cancelled, and what it found. */
export function useLayout() {
  const errands = useMemo(() => new Errands(), [])
  const [laying, setLaying] = useState<Laying>(NOTHING)
  useEffect(() => errands.end, [errands])
  const find = (job: LayoutJob) => {
    const errand = errands.begin()
    const from = performance.now()
    setLaying({ ...NOTHING, of: job, running: true })
    errand
      .run(renderers, {
        task: 'layNight',
        args: [job, Array.from({ length: NAMES }, newId)],
        key: null,
        onPart: (share) => setLaying((l) => (errand.isOver ? l : { ...l, share: Number(share) })),
      })
      .then(
        (proposal) => setLaying((l) => (errand.isOver ? l : { ...l, proposal, running: false, share: 1, ms: performance.now() - from })),
        (error: unknown) => {
          if (!(error instanceof Cancelled)) setLaying((l) => ({ ...l, running: false, problem: reasonOf(error) }))
        },
      )
  }
  const cancel = () => {
    errands.end()
    setLaying(NOTHING)
  }
  return { laying, find, cancel }
}
