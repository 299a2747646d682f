import { useEffect, useState } from 'react'
import { frozen, inputDbAt, movedBy, resolveValues, type Control, type Preset } from '@fulgor/core/preset'
import type { SweepPoint } from '../../audio/render.worker'
import { riffSource } from '../../audio/riffSource'
import { renderWorkers, SAMPLE_RATE } from '../../audio/workers'
import { useAppSelector } from '../../state/store'

export const SWEEP_POINTS = 21

export interface Sweep {
  /** By point, heel first; undefined while it is still to come. */
  readonly points: readonly (SweepPoint | undefined)[]
  readonly ms: number | null
  readonly problem: string | null
}

const EMPTY: Sweep = { points: [], ms: null, problem: null }

/** Stages that a source moves, also through macros. */
const movedStages = (preset: Preset, id: string, snapshot: string): string[] =>
  [0, 1].flatMap((position) => [...movedBy(preset, snapshot, { [id]: position }).keys()])

/** Renders the travel of a source at 21 positions, half of them in each worker, and measures each. */
export function useSweep(preset: Preset, control: Control | null, snapshot: string | null): Sweep {
  const quality = useAppSelector((s) => s.player.quality)
  const ready = useAppSelector((s) => s.measures.lastAllMs !== null)
  const [sweep, setSweep] = useState<Sweep>(EMPTY)
  const still = control === null || control.targets.length === 0 || snapshot === null
  useEffect(() => {
    let here = true
    if (still || !ready) {
      if (still) setSweep(EMPTY)
      return
    }
    const points: (SweepPoint | undefined)[] = Array.from({ length: SWEEP_POINTS }, () => undefined)
    const run = async () => {
      await new Promise((done) => setTimeout(done, 250))
      if (!here) return
      const began = performance.now()
      const moved = movedStages(preset, control.id, snapshot)
      let next = 0
      // both take from the same pile, the ends first, so that a jump shows early
      const order = [...points.keys()].sort((a, b) => (a % 5 === 0 ? 0 : 1) - (b % 5 === 0 ? 0 : 1))
      await Promise.all(
        renderWorkers().map(async (worker) => {
          while (next < order.length && here) {
            const at = order[next++]
            const values = resolveValues(preset, snapshot, { [control.id]: at / (SWEEP_POINTS - 1) })
            const job = {
              preset: frozen(preset, snapshot, values),
              snapshot,
              riff: riffSource(preset, snapshot),
              sampleRate: SAMPLE_RATE,
              quality,
            }
            points[at] = await worker.point(job, moved, inputDbAt(control, at / (SWEEP_POINTS - 1)))
            if (here) setSweep({ points: [...points], ms: null, problem: null })
          }
        }),
      )
      if (here) setSweep({ points: [...points], ms: performance.now() - began, problem: null })
    }
    run().catch((error: unknown) => {
      if (here) setSweep({ points, ms: null, problem: error instanceof Error ? error.message : String(error) })
    })
    return () => {
      here = false
    }
  }, [preset, control, snapshot, quality, ready, still])
  return sweep
}
