import { partsOf } from '../chain/chain'
import type { Preset } from '../preset'

/** Forgets what fits say of stages and snapshots that are gone. */
export function forgetFits(preset: Preset): Preset {
  if (!preset.guitars.some((g) => g.fits)) return preset
  const stages = new Set(partsOf(preset.chain).map((s) => s.id))
  const snapshots = new Set(preset.snapshots.map((s) => s.id))
  const only = (values: Readonly<Record<string, number>>, there: ReadonlySet<string>) =>
    Object.fromEntries(Object.entries(values).filter(([id]) => there.has(id)))
  return {
    ...preset,
    guitars: preset.guitars.map((g) =>
      g.fits ? { ...g, fits: g.fits.map((f) => ({ ...f, gates: only(f.gates, stages), trims: only(f.trims, snapshots) })) } : g,
    ),
  }
}
