import { partsOf } from '../chain/chain'
import type { Preset } from '../preset'
import type { Fit } from './description'

/** Forgets what fits say of stages and snapshots that are gone. */
export function forgetFits(preset: Preset): Preset {
  if (!preset.guitars.some((g) => g.fits)) return preset
  const stages = new Set(partsOf(preset.chain).map((s) => s.id))
  const snapshots = new Set(preset.snapshots.map((s) => s.id))
  const only = <T>(values: Readonly<Record<string, T>>, there: ReadonlySet<string>): Readonly<Record<string, T>> =>
    Object.fromEntries(Object.entries(values).filter(([id]) => there.has(id)))
  const gatesOf = (gates: Fit['gates']): Fit['gates'] =>
    Object.fromEntries(Object.entries(only(gates, stages)).map(([id, moves]) => [id, only(moves, snapshots)]))
  return {
    ...preset,
    guitars: preset.guitars.map((g) =>
      g.fits ? { ...g, fits: g.fits.map((f) => ({ ...f, gates: gatesOf(f.gates), trims: only(f.trims, snapshots) })) } : g,
    ),
  }
}
