import type { OutputMeasures } from '@fulgor/core/measure'
import type { Preset, Snapshot, Take } from '@fulgor/core/preset'
import { renderers } from '../../threads/crews'
import { useWishes } from '../../background/useWish'

type Measured = OutputMeasures | { readonly problem: string }

/** What was measured of these recordings; those that are still being measured are missing. One that failed is asked for anew. */
export function useRecordings(files: readonly string[]): ReadonlyMap<string, Measured> {
  const { answers, problems } = useWishes(renderers, [files.join()], () =>
    files.map((file) => ({ task: 'recording', args: [file], rank: 'beside', keep: 400 })),
  )
  return new Map(
    files.flatMap((file, i): [string, Measured][] => {
      const [found, problem] = [answers[i], problems[i]]
      return found ? [[file, found]] : problem === undefined ? [] : [[file, { problem }]]
    }),
  )
}

export const measuresOf = (found: Measured | undefined): OutputMeasures | null => (found && !('problem' in found) ? found : null)
export const problemOf = (found: Measured | undefined): string | null => (found && 'problem' in found ? found.problem : null)

/** The take that counts: the last one. */
export const takeOf = (snapshot: Snapshot): Take | null => snapshot.takes?.at(-1) ?? null

/** Takes that count, with their snapshots. */
export const takesOf = (preset: Preset): { snapshot: Snapshot; take: Take }[] =>
  preset.snapshots.flatMap((snapshot) => {
    const take = takeOf(snapshot)
    return take ? [{ snapshot, take }] : []
  })
