import { useEffect, useState } from 'react'
import type { OutputMeasures } from '@fulgor/core/measure'
import type { Preset, Snapshot, Take } from '@fulgor/core/preset'
import { renderWorkers } from '../../audio/workers'

type Measured = OutputMeasures | { readonly problem: string }

const known = new Map<string, Measured>()
const asked = new Map<string, Promise<void>>()

function ask(file: string): Promise<void> {
  let request = asked.get(file)
  if (!request) {
    request = renderWorkers()[1]
      .recording(file)
      .then(
        (measures) => void known.set(file, measures),
        (error: unknown) => void known.set(file, { problem: error instanceof Error ? error.message : String(error) }),
      )
    asked.set(file, request)
  }
  return request
}

/** What was measured of these recordings; those that are still being measured are missing. */
export function useRecordings(files: readonly string[]): ReadonlyMap<string, Measured> {
  const [, setDone] = useState(0)
  const key = files.join()
  useEffect(() => {
    let here = true
    for (const file of key.split(',').filter(Boolean))
      void ask(file).then(() => {
        if (here) setDone((n) => n + 1)
      })
    return () => {
      here = false
    }
  }, [key])
  return known
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
