import { modelOf } from '@fulgor/core/catalogue'
import { findLane, resolveStage, stripOf, type Edit, type Preset } from '@fulgor/core/preset'
import type { Mend } from './finding'

/** Puts lanes later in some snapshots; no mend where a strip cannot wait that long. */
export function laneDelays(
  preset: Preset,
  label: string,
  wanted: readonly { readonly lane: string; readonly snapshot: string; readonly ms: number }[],
  more: readonly Edit[] = [],
): Mend[] {
  const spec = modelOf('lane').params.delay
  const edits = wanted.map(({ lane, snapshot, ms }): Edit | null => {
    const found = findLane(preset, lane)
    if (!found || spec.kind !== 'number') return null
    const value = Math.round(100 * (Number(resolveStage(preset, stripOf(found.lane), snapshot).params.delay) + ms)) / 100
    return value > spec.max ? null : { type: 'setParam', stage: lane, snapshot, param: 'delay', value }
  })
  const possible = edits.flatMap((edit) => (edit ? [edit] : []))
  return possible.length === edits.length ? [{ label, edits: [...possible, ...more] }] : []
}
