import { layerSpecs } from '@fulgor/core/catalogue'
import { filled, flag, id, list, named, nullable, record, text, type RecordOf } from '@fulgor/core/document'
import { riffField, type RiffChoice } from '../levels/description'
import { fieldsOf, initialsOf } from '../values'

export const MAX_LAYERS = 8

const layerRecord = record({
  id: id(),
  /** Id of another preset; null is this one. */
  preset: nullable(text(60)),
  snapshot: text(40),
  riff: riffField,
  on: flag(),
  ...fieldsOf(layerSpecs),
})

/** One sound of a mix: a snapshot of this or another preset, played on a take of its own. */
export type Layer = RecordOf<typeof layerRecord.fields>

export const createLayer = (id: string, preset: string | null, snapshot: string, riff: RiffChoice): Layer => ({
  id,
  preset,
  snapshot,
  riff,
  on: true,
  ...(initialsOf(layerSpecs) as Record<keyof typeof layerSpecs, number>),
})

export const layersField = list(
  named('layer', () => filled(layerRecord, ['id', 'preset', 'snapshot', 'riff', 'on'], () => initialsOf(layerSpecs))),
  MAX_LAYERS,
  { ids: 'own' },
)
