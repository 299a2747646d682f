import { CEILING_DBTP } from '@fulgor/core/measure'
import { resolveStage, trimOf, trimsExactly, type Edit, type Preset, type Trim } from '@fulgor/core/preset'
import type { Finding } from './finding'
import { db } from './heard'

/** True peak of each snapshot at the output in dBTP, as far as it is known for the preset as it stands. */
export type OutputPeaks = Readonly<Record<string, number | null | undefined>>

const RULE = 'over-ceiling'

/** What turns the whole preset, dB by dB; null where nothing does. */
export function exactTrim(preset: Preset): Trim | null {
  const trim = trimOf(preset)
  return trim && trimsExactly(preset, trim) ? trim : null
}

/** A snapshot turned down by so many dB, to the next tenth. */
export function lowered(preset: Preset, { stage, param, spec }: Trim, snapshot: string, by: number): Edit {
  const now = Number(resolveStage(preset, stage, snapshot).params[param])
  return { type: 'setParam', stage: stage.id, snapshot, param, value: Math.max(spec.min, Math.floor((now - by) * 10) / 10) }
}

/** A snapshot that leaves above the ceiling clips in the converter, or later in what it is recorded to. */
export function overCeiling(preset: Preset, peaks: OutputPeaks): Finding[] {
  const hot = preset.snapshots.flatMap((s) => {
    const peak = peaks[s.id]
    return peak != null && peak > CEILING_DBTP ? [{ snapshot: s, peak }] : []
  })
  if (hot.length === 0) return []
  const exact = exactTrim(preset)
  const lower = exact ? hot.map(({ snapshot, peak }) => lowered(preset, exact, snapshot.id, peak - CEILING_DBTP)) : []
  const most = Math.max(...hot.map(({ peak }) => peak))
  return [
    {
      rule: RULE,
      severity: 'warning',
      snapshots: hot.map(({ snapshot }) => snapshot.id),
      amount: { value: most - CEILING_DBTP, unit: 'dB', against: `over ${db(CEILING_DBTP)} dBTP` },
      where: exact ? [exact.stage.id] : [],
      figure: `${hot.map(({ snapshot, peak }) => `${snapshot.name} leaves at ${db(peak)} dBTP`).join(', ')}; the ceiling is ${db(CEILING_DBTP)}.`,
      reason:
        most > 0
          ? 'Above 0 it is clipped by the converter or the file, however clean the preset is.'
          : 'Between samples the converter or a coded file may clip.',
      mends:
        lower.length > 0
          ? [{ label: hot.length === 1 ? 'Lower it to the ceiling' : 'Lower them to the ceiling', edits: lower, safe: true }]
          : [],
    },
  ]
}
