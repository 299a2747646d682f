import { modelOf } from '@fulgor/core/catalogue'
import type { EqBand } from '@fulgor/core/match'
import { clippingStages, type Edit, type ParamMap, type Preset } from '@fulgor/core/preset'
import { added, anyOf, heardOf } from './proposal'

/** Where an equaliser can be put. */
export const EQ_PLACES = ['behind the cabinet', 'before the amp'] as const
export type EqPlace = (typeof EQ_PLACES)[number]

const MODEL = 'eq.parametric'
const BELLS = [1, 2, 3] as const

/** Bands as values of as many parametric equalisers as they need; each bell has a range of its own. */
export function asParametric(bands: readonly EqBand[]): ParamMap[] {
  const specs = modelOf(MODEL).params
  const range = (param: string): readonly [number, number] => {
    const spec = specs[param]
    return spec.kind === 'number' ? [spec.min, spec.max] : [0, 0]
  }
  const within = (param: string, value: number): number => Math.min(range(param)[1], Math.max(range(param)[0], value))
  const stages: Record<string, number>[] = []
  for (const { hz, db, q } of [...bands].sort((a, b) => a.hz - b.hz)) {
    const free = (of: Record<string, number>) =>
      BELLS.find((n) => !(`bell${n}` in of) && hz >= range(`bell${n}`)[0] && hz <= range(`bell${n}`)[1])
    let stage = stages.find((s) => free(s) !== undefined)
    if (!stage) stages.push((stage = {}))
    const n = free(stage) ?? (hz < 100 ? 1 : 3)
    stage[`bell${n}`] = within(`bell${n}`, Math.round(hz))
    stage[`gain${n}`] = within(`gain${n}`, Math.round(10 * db) / 10)
    stage[`q${n}`] = within(`q${n}`, Math.round(100 * q) / 100)
  }
  return stages
}

/**
 * An equaliser of its own, heard in one snapshot alone.
 * @param ids of new stages, as many as may be needed
 * @returns null where there is nothing to put it beside
 */
export function eqEdit(preset: Preset, snapshot: string, bands: readonly EqBand[], place: EqPlace, ids: readonly string[]): Edit | null {
  const amp = heardOf(preset, snapshot, 'amp') ?? clippingStages(preset, snapshot).at(0)
  const beside = place === 'before the amp' ? amp : (heardOf(preset, snapshot, 'cabinet') ?? anyOf(preset, 'cabinet') ?? amp)
  if (!beside) return null
  const stages = asParametric(bands)
  const edits = stages.flatMap((params, k) => added(preset, snapshot, ids[k], MODEL, beside.id, place === 'behind the cabinet', params))
  return { type: 'all', edits }
}

const signed = (db: number): string => `${db < 0 ? '−' : '+'}${Math.abs(db).toFixed(1)}`
const hertz = (hz: number): string => (hz >= 1_000 ? `${(hz / 1_000).toFixed(1)} k` : String(Math.round(hz)))

/** “330 Hz −3.0, 3.3 k −3.6, 9.0 k +2.4 dB”. */
export const bandWords = (bands: readonly EqBand[]): string => `${bands.map(({ hz, db }) => `${hertz(hz)} ${signed(db)}`).join(', ')} dB`
