import { catalogue, findModel, modelOf } from '@fulgor/core/catalogue'
import {
  constant,
  DocumentError,
  flag,
  id,
  list,
  named,
  nested,
  optional,
  optionalIf,
  record,
  refined,
  tagged,
  text,
  type Field,
  type RecordOf,
} from '@fulgor/core/document'
import { benchField } from '../bench/description'
import { initialsOf, readValues, valuesSchema, type ParamMap } from '../values'

export const MAX_STAGES = 40
/** Parallel lanes may stand inside parallel lanes, not deeper. */
export const MAX_LANE_DEPTH = 2
export const MAX_LANES = 4

/** The model of a lane's strip: not to be added by itself. */
export const LANE_MODEL = 'lane'
/** The model of the guitar before the chain: not to be added either. */
export const GUITAR_MODEL = 'guitar'
/** Names the guitar among what sources move and taps tell of; no stage of the player's can have this id. */
export const GUITAR_STAGE = '@guitar'
const ADDED_BY_ITSELF: readonly unknown[] = [LANE_MODEL, GUITAR_MODEL]

/** The catalogue's defaults of a model. */
export function defaultParams(model: string): ParamMap {
  const known = defaults.get(model)
  if (known) return known
  const made = initialsOf(modelOf(model).params)
  defaults.set(model, made)
  return made
}
const defaults = new Map<string, ParamMap>()

const modelField: Field<string> = {
  read(value, path) {
    if (typeof value !== 'string' || ADDED_BY_ITSELF.includes(value) || !findModel(value))
      throw new DocumentError(
        path,
        typeof value === 'string' ? `there is no stage model “${value.slice(0, 60)}”.` : 'must name a stage model.',
      )
    return value
  },
  schema: () => ({ enum: catalogue.map((m) => m.id).filter((model) => !ADDED_BY_ITSELF.includes(model)) }),
}

/** Values of the owner's model; what is missing takes the catalogue's default. */
const paramsField: Field<ParamMap> = {
  read: (value, path, { owner }) => {
    const model = owner.model as string
    return { ...defaultParams(model), ...readValues(value, path, modelOf(model).params, model) }
  },
  schema: () => ({ type: 'object' }),
}

const stageRecord = record({
  kind: constant('stage'),
  id: id(),
  model: modelField,
  /** What the player calls it; by itself what its model is called. */
  name: optional(text(40, { about: 'What the player calls it.' })),
  on: flag(),
  params: paramsField,
  /** Of a cabinet: what its blend is made of, once the player has been at the bench. */
  bench: optionalIf((owner) => owner.model === 'cabinet', benchField),
})

/** One model in the chain with its base values. */
export type StageNode = RecordOf<typeof stageRecord.fields>

export const stageFields = stageRecord.fields

const stageField: Field<StageNode> = named('stage', () => ({
  ...stageRecord,
  schema: (defs) => ({
    ...stageRecord.schema(defs),
    allOf: catalogue.map((model) => ({
      if: { properties: { model: { const: model.id } } },
      then: { properties: { params: valuesSchema(model.params), ...(model.id === 'cabinet' ? {} : { bench: false }) } },
    })),
  }),
}))

const strip = modelOf(LANE_MODEL).params

const laneFields = {
  id: id(),
  on: flag(),
  params: {
    read: (value: unknown, path: string) => ({ ...defaultParams(LANE_MODEL), ...readValues(value, path, strip, LANE_MODEL) }),
    schema: () => valuesSchema(strip),
  } satisfies Field<ParamMap>,
}

/** One branch of a split. Its strip at the end (level, pan, polarity, delay; off is mute) is a stage of the model {@link LANE_MODEL}. */
export interface Lane extends RecordOf<typeof laneFields> {
  readonly nodes: readonly ChainNode[]
}

/** A split whose lanes are summed. */
export interface ParallelNode {
  readonly kind: 'parallel'
  readonly id: string
  readonly lanes: readonly Lane[]
}

export type ChainNode = StageNode | ParallelNode

export const laneField: Field<Lane> = named('lane', () => record({ ...laneFields, nodes: list(nodeField, MAX_STAGES) }))

const parallelField: Field<ParallelNode> = named('parallel', () =>
  record({
    kind: constant('parallel'),
    id: id(),
    lanes: list(laneField, MAX_LANES, { least: 2, none: 'a split needs at least two lanes.' }),
  }),
)

export const nodeField: Field<ChainNode> = named('node', () =>
  tagged('kind', {
    stage: stageField,
    parallel: nested(parallelField, MAX_LANE_DEPTH, `lanes may lie ${MAX_LANE_DEPTH} deep, not deeper.`),
  }),
)

/** Stages and lanes of a preset, top to bottom. */
export const chainField = refined(list(nodeField, MAX_STAGES), (chain, path) => {
  const count = stagesOf(chain).length
  if (count > MAX_STAGES) throw new DocumentError(path, `holds ${count} stages, at most ${MAX_STAGES} are possible.`)
})

/** All stages of a chain, top to bottom, lanes one after another. */
export function stagesOf(nodes: readonly ChainNode[]): StageNode[] {
  return nodes.flatMap((node) => (node.kind === 'stage' ? [node] : node.lanes.flatMap((lane) => stagesOf(lane.nodes))))
}
