import { asPlayed, frozen, inputDbAt, movedBy, resolveValues, type Control, type Preset } from '@fulgor/core/preset'
import { renderingOf } from '../../threads/riffSource'
import type { SweepPoint } from '../../threads/measures'
import { renderers } from '../../threads/crews'
import { useWishes } from '../../background/useWish'
import { useAppSelector } from '../../state/store'

export const SWEEP_POINTS = 21

export interface Sweep {
  /** By point, heel first; undefined while it is still to come. */
  readonly points: readonly (SweepPoint | undefined)[]
  readonly ms: number | null
  readonly problem: string | null
}

/** Stages that a source moves, also through macros. */
const movedStages = (preset: Preset, id: string, snapshot: string): string[] =>
  [0, 1].flatMap((position) => [...movedBy(preset, snapshot, { [id]: position }).keys()])

/** The order in which they are measured: the ends first, so that a jump shows early. */
const ORDER = Array.from({ length: SWEEP_POINTS }, (_, at) => at).sort((a, b) => (a % 5 === 0 ? 0 : 1) - (b % 5 === 0 ? 0 : 1))

/** Renders the travel of a source at 21 positions and measures each. */
export function useSweep(preset: Preset, control: Control | null, snapshot: string | null): Sweep {
  const quality = useAppSelector((s) => s.player.quality)
  const ready = useAppSelector((s) => s.measures.lastAllMs !== null)
  const { answers, problems, ms } = useWishes(
    renderers,
    [preset, control, snapshot, quality, ready],
    () => {
      if (!control || control.targets.length === 0 || snapshot === null || !ready) return []
      // the guitar's own knob is swept where a source turns it
      const played = asPlayed(preset)
      const moved = movedStages(played, control.id, snapshot)
      const knob = control.kind === 'volume' && control.declared
      const job = renderingOf(preset, snapshot, quality)
      return ORDER.map((at) => {
        const position = at / (SWEEP_POINTS - 1)
        const there = frozen(played, snapshot, resolveValues(played, snapshot, { [control.id]: position }))
        return {
          task: 'point',
          args: [{ ...job, preset: there }, moved, knob ? 0 : inputDbAt(control, position)],
          key: null,
          rank: 'beside',
        }
      })
    },
    { afterMs: 250 },
  )
  const points: (SweepPoint | undefined)[] = []
  ORDER.forEach((at, i) => (points[at] = answers.at(i)))
  return { points: answers.length === 0 ? [] : points, ms, problem: problems.find((p) => p !== undefined) ?? null }
}
