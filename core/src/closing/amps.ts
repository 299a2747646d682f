import { catalogue, modelOf } from '@fulgor/core/catalogue'
import { placeOf, type Edit, type ParamMap, type Preset, type StageNode } from '@fulgor/core/preset'
import { added, setAll, startOf, valuesOf } from './proposal'

/** How one setting sounds beside the recording. */
export interface Look {
  /** Root mean square of the bands at equal loudness. */
  readonly db: number
  readonly crestDb: number
  readonly densityDb: number
}

/** What a setting is to come near to. `crestDb` null: the recording’s is that of a mastered mix. */
export interface Aimed {
  readonly crestDb: number | null
  readonly densityDb: number
}

/** dB that a dB of crest, or of density, counts as. */
const HAND = 0.5

/** Tone, crest and density in one figure, dB: root of the sum of squares, a dB of crest or density for half a dB of tone. */
export const nearness = ({ db, crestDb, densityDb }: Look, aimed: Aimed): number =>
  Math.hypot(db, aimed.crestDb === null ? 0 : HAND * (crestDb - aimed.crestDb), HAND * (densityDb - aimed.densityDb))

/** One model with its knobs, and how near it is. */
export interface Setting {
  readonly model: string
  readonly params: Readonly<Record<string, number>>
  readonly look: Look
  readonly near: number
}

/** Knobs that set how much a stage distorts, by name. */
const GAINS = ['gain', 'fuzz', 'sustain', 'boost']
/** Knobs that are turned once a model is near. */
const TONE = ['bass', 'mid', 'treble', 'presence', 'tone', 'cut', 'filter', 'range']
const COARSE = [1.5, 3.5, 5.5, 8]
/** Models that are gone on with. */
const FURTHER = 2
const STEPS = [2, 1]
/** dB that a turned knob must win. */
const WORTH_DB = 0.03

/** Models that are tried in a stage's place. */
export const modelsOf = (family: 'amp' | 'drive'): string[] => catalogue.filter((m) => m.family === family).map((m) => m.id)

/** The knob that sets how much a model distorts. */
export const gainKnob = (model: string): string | null => GAINS.find((g) => g in modelOf(model).params) ?? null

const clamp = (model: string, param: string, value: number): number => {
  const spec = modelOf(model).params[param]
  return spec.kind === 'number' ? Math.min(spec.max, Math.max(spec.min, value)) : value
}

/** What the knobs of a model begin with: the preset’s own where it is that model. */
function from(preset: Preset, snapshot: string, stage: StageNode | null, model: string): Record<string, number> {
  const values: ParamMap = stage?.model === model ? valuesOf(preset, snapshot, stage) : startOf(model)
  const gain = gainKnob(model)
  const names = [...(gain === null ? [] : [gain]), ...TONE.filter((t) => t in modelOf(model).params)]
  return Object.fromEntries(names.map((name) => [name, Number(values[name])]))
}

/** Which stage is turned, or where a new one is put. */
export type Where = { readonly stage: StageNode } | { readonly beside: string; readonly id: string }

/** A setting as one edit. Another model stands in every snapshot; its knobs only in this one. */
export function settingEdit(preset: Preset, snapshot: string, where: Where, { model, params }: Pick<Setting, 'model' | 'params'>): Edit {
  if (!('stage' in where)) return { type: 'all', edits: added(preset, snapshot, where.id, model, where.beside, false, params) }
  const { stage } = where
  return {
    type: 'all',
    edits: [
      ...(stage.model === model ? [] : [{ type: 'changeModel', stage: stage.id, model, gainDb: 0 } as const]),
      ...setAll(stage.id, snapshot, params),
    ],
  }
}

/**
 * Every model at a few gains; then the knobs of the nearest ones, one after another by ever smaller steps. Each look is told as it comes.
 * @param look renders and compares
 * @returns the best of each model, nearest first
 */
export function* searchSettings(
  of: {
    readonly preset: Preset
    readonly snapshot: string
    readonly where: Where
    readonly models: readonly string[]
    readonly aimed: Aimed
  },
  look: (edit: Edit) => Look,
): Generator<Setting, Setting[]> {
  const { preset, snapshot, where, models, aimed } = of
  const own = 'stage' in where ? where.stage : null
  const tried = (model: string, params: Record<string, number>): Setting => {
    const found = look(settingEdit(preset, snapshot, where, { model, params }))
    return { model, params, look: found, near: nearness(found, aimed) }
  }
  const best: Setting[] = []
  for (const model of models) {
    const start = from(preset, snapshot, own, model)
    const gain = gainKnob(model)
    const spec = gain === null ? null : modelOf(model).params[gain]
    const span = spec?.kind === 'number' ? (spec.max - spec.min) / 10 : 1
    let nearest: Setting | null = null
    const first = gain === null || own?.model === model ? [start] : []
    for (const params of [...first, ...(gain === null ? [] : COARSE.map((g) => ({ ...start, [gain]: g * span })))]) {
      const now = tried(model, params)
      if (!nearest || now.near < nearest.near) nearest = now
      yield now
    }
    if (nearest) best.push(nearest)
  }
  best.sort((a, b) => a.near - b.near)
  for (let k = 0; k < Math.min(FURTHER, best.length); k++)
    for (const step of STEPS)
      for (const [param, value] of Object.entries(best[k].params))
        for (const sign of [-1, 1]) {
          const next = clamp(best[k].model, param, best[k].params[param] + sign * step)
          if (next === best[k].params[param] || best[k].params[param] !== value) continue
          const now = tried(best[k].model, { ...best[k].params, [param]: next })
          if (now.near < best[k].near - WORTH_DB) best[k] = now
          yield now
        }
  return best.sort((a, b) => a.near - b.near)
}

/** “gain 4.6, mid 6.5”: gain, and what is not where the model begins. */
export function settingWords({ model, params }: Pick<Setting, 'model' | 'params'>): string {
  const start = startOf(model)
  const gain = gainKnob(model)
  return Object.entries(params)
    .filter(([name, value]) => name === gain || Math.abs(value - Number(start[name])) > 0.05)
    .map(([name, value]) => `${modelOf(model).params[name].label.toLowerCase()} ${value.toFixed(1)}`)
    .join(', ')
}

/** Where a drive would be put that is not there: before the amp. */
export const beforeAmp = (preset: Preset, amp: StageNode | undefined, id: string): Where | null =>
  amp && placeOf(preset, amp.id) ? { beside: amp.id, id } : null
