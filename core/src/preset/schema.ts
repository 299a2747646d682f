import { catalogue, modelOf, type ParamSpec, type ParamSpecs } from '@fulgor/core/catalogue'
import { LANE_MODEL, MAX_LANES, MAX_SNAPSHOTS, MAX_STAGES, PRESET_FORMAT, PRESET_VERSION } from './preset'
import { ID_PATTERN, LIMITS, RIFF_PATTERN } from './read'

type Json = Record<string, unknown>

/** The published JSON Schema (draft 2020-12) of a preset document, derived from the catalogue. */
export function presetSchema(): Json {
  const id: Json = { type: 'string', pattern: ID_PATTERN }
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    $id: 'urn:fulgor:preset:1',
    title: 'Fulgor preset',
    ...closed({
      $schema: { type: 'string' },
      format: { const: PRESET_FORMAT },
      version: { const: PRESET_VERSION },
      name: { type: 'string', minLength: 1, maxLength: LIMITS.name },
      tags: { type: 'array', maxItems: LIMITS.tags, items: { type: 'string', minLength: 1, maxLength: LIMITS.tag } },
      notes: { type: 'string', maxLength: LIMITS.notes },
      tempo: range(LIMITS.tempo, 'Quarter notes a minute.'),
      targetLufs: range(LIMITS.targetLufs, 'Loudness that every snapshot is levelled to.'),
      riff: closed({ id: { type: 'string', pattern: RIFF_PATTERN }, strength: { enum: ['soft', 'hard'] } }),
      guitar: closed({
        name: { type: 'string', minLength: 1, maxLength: LIMITS.name },
        hardPeakDbfs: range(LIMITS.hardPeakDbfs, 'Peak of a hard strum at the input.'),
      }),
      chain: { type: 'array', maxItems: MAX_STAGES, items: { $ref: '#/$defs/node' } },
      snapshots: { type: 'array', minItems: 1, maxItems: MAX_SNAPSHOTS, items: { $ref: '#/$defs/snapshot' } },
    }),
    $defs: {
      node: { oneOf: [{ $ref: '#/$defs/stage' }, { $ref: '#/$defs/parallel' }] },
      stage: {
        ...closed({
          kind: { const: 'stage' },
          id,
          model: { enum: catalogue.map((m) => m.id) },
          on: { type: 'boolean' },
          params: { type: 'object' },
        }),
        allOf: catalogue.map((model) => ({
          if: { properties: { model: { const: model.id } } },
          then: { properties: { params: paramsSchema(model.params) } },
        })),
      },
      parallel: closed({
        kind: { const: 'parallel' },
        id,
        lanes: { type: 'array', minItems: 2, maxItems: MAX_LANES, items: { $ref: '#/$defs/lane' } },
      }),
      lane: closed({
        id,
        on: { type: 'boolean' },
        params: paramsSchema(modelOf(LANE_MODEL).params),
        nodes: { type: 'array', maxItems: MAX_STAGES, items: { $ref: '#/$defs/node' } },
      }),
      snapshot: closed({
        id,
        name: { type: 'string', minLength: 1, maxLength: LIMITS.name },
        stages: {
          type: 'object',
          propertyNames: id,
          additionalProperties: {
            type: 'object',
            additionalProperties: false,
            properties: { on: { type: 'boolean' }, params: { type: 'object' } },
          },
        },
      }),
    },
  }
}

function closed(properties: Json): Json {
  const required = Object.keys(properties).filter((key) => key !== '$schema')
  return { type: 'object', additionalProperties: false, required, properties }
}

function range([minimum, maximum]: readonly [number, number], description?: string): Json {
  return { type: 'number', minimum, maximum, ...(description ? { description } : {}) }
}

function paramsSchema(specs: ParamSpecs): Json {
  return {
    type: 'object',
    additionalProperties: false,
    properties: Object.fromEntries(Object.entries(specs).map(([key, spec]) => [key, paramSchema(spec)])),
  }
}

function paramSchema(spec: ParamSpec): Json {
  if (spec.kind === 'choice') return { title: spec.label, enum: spec.options.map((o) => o.value), default: spec.initial }
  return { title: spec.label, type: 'number', minimum: spec.min, maximum: spec.max, default: spec.initial, 'x-unit': spec.unit }
}
