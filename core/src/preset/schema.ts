import {
  cabSpecs,
  catalogue,
  channelFlags,
  channelSpecs,
  layerSpecs,
  micSpecs,
  modelOf,
  type ParamSpec,
  type ParamSpecs,
} from '@fulgor/core/catalogue'
import { LANE_MODEL, ROLES, MAX_LANES, MAX_SNAPSHOTS, MAX_STAGES, PRESET_FORMAT, PRESET_VERSION } from './preset'
import { PICKUPS, STRENGTHS, TUNINGS } from '@fulgor/core/riffs'
import { NOTE_VALUES } from '@fulgor/core/stage'
import { BLEND_FRAMES, MAX_CHANNELS } from '@fulgor/core/cabinet'
import { ID_PATTERN } from './fields'
import { BOARD_LIMITS, BOARD_PAGES, GESTURES, MAX_SWITCHES } from './board'
import { CAPACITY_RANGES } from './device'
import { CONTROL_KINDS, CONTROL_LIMITS, LFO_SHAPES, MAX_CONTROLS, MAX_TARGETS, ON_SNAPSHOT } from './controls'
import { CURVE_SHAPES, MAX_DEAD, MAX_POINTS } from './curves'
import { MAX_LAYERS, MAX_RIFF_TAKES } from './layers'
import { LIMITS, OFFSET_RANGE } from './read'
import { DATE_PATTERN, DEVICE_LIMITS, RIFF_PATTERN } from './readExtras'
import { MAX_TAKES, SCALE_KINDS } from './takes'
import { FILE_PATTERN, SIDES } from './readBench'

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
      riff: riffSchema(),
      guitar: closed({
        name: { type: 'string', minLength: 1, maxLength: LIMITS.name },
        hardPeakDbfs: range(LIMITS.hardPeakDbfs, 'Peak of a hard strum at the input.'),
        pickup: { enum: PICKUPS.map((p) => p.id) },
      }),
      trim: { ...id, description: 'Stage or lane that levelling turns; the last Output without it.' },
      device: closed({
        name: { type: 'string', minLength: 1, maxLength: DEVICE_LIMITS.name },
        kind: { enum: SCALE_KINDS, description: 'Marks are dB, proportional to the amplitude, or steps of some dB.' },
        min: range(DEVICE_LIMITS.mark),
        max: range(DEVICE_LIMITS.mark),
        stepDb: range(DEVICE_LIMITS.stepDb, 'dB of one mark, with steps.'),
        capacity: closed({
          ...Object.fromEntries(Object.entries(CAPACITY_RANGES).map(([key, limits]) => [key, whole(limits)])),
          hold: { type: 'boolean' },
          double: { type: 'boolean' },
        }),
      }),
      controls: { type: 'array', maxItems: MAX_CONTROLS, items: { $ref: '#/$defs/control' } },
      board: closed({
        start: { enum: BOARD_PAGES },
        holdMs: range(BOARD_LIMITS.holdMs),
        doubleMs: range(BOARD_LIMITS.doubleMs),
        switches: { type: 'array', maxItems: MAX_SWITCHES, items: { $ref: '#/$defs/switch' } },
      }),
      midiPlan: closed({
        channel: whole([1, 16]),
        program: { oneOf: [{ type: 'null' }, whole([0, 127])] },
        bank: { oneOf: [{ type: 'null' }, whole([0, 16_383])] },
        snapshots: closed({ by: { enum: ['program', 'controller'] }, controller: whole([0, 119]), first: whole([0, 120]) }),
      }),
      layers: { type: 'array', maxItems: MAX_LAYERS, items: { $ref: '#/$defs/layer' } },
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
          name: { type: 'string', minLength: 1, maxLength: LIMITS.stage, description: 'What the player calls it.' },
          on: { type: 'boolean' },
          params: { type: 'object' },
          bench: { $ref: '#/$defs/bench' },
        }),
        required: ['kind', 'id', 'model', 'on', 'params'],
        allOf: catalogue.map((model) => ({
          if: { properties: { model: { const: model.id } } },
          then: { properties: { params: paramsSchema(model.params), ...(model.id === 'cabinet' ? {} : { bench: false }) } },
        })),
      },
      bench: closed({
        cab: paramsSchema(cabSpecs),
        channels: { type: 'array', maxItems: MAX_CHANNELS, items: { $ref: '#/$defs/channel' } },
        frames: { enum: BLEND_FRAMES, description: 'Length of the blend at 48 kHz.' },
      }),
      channel: {
        ...paramsSchema(channelSpecs),
        required: ['id', 'source'],
        properties: {
          id,
          source: { oneOf: [sourceSchema('mic', micProperties()), sourceSchema('file', fileProperties(), ['file', 'name', 'side'])] },
          ...(paramsSchema(channelSpecs).properties as Json),
          ...Object.fromEntries(Object.keys(channelFlags).map((key) => [key, { type: 'boolean' }])),
        },
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
      control: {
        ...closed({
          id,
          name: { type: 'string', minLength: 1, maxLength: 60 },
          kind: { enum: CONTROL_KINDS },
          rest: range([0, 1], 'Position that it rests in, 0 heel to 1 toe.'),
          smoothing: range(CONTROL_LIMITS.smoothing, 'ms.'),
          onSnapshot: { enum: ON_SNAPSHOT },
          midi: bindingSchema(),
          note: { enum: ['free', ...NOTE_VALUES.map((n) => n.id)] },
          hz: range(CONTROL_LIMITS.hz),
          shape: { enum: LFO_SHAPES },
          declared: { type: 'boolean', description: 'The player says where the guitar’s volume stands.' },
          low: range(CONTROL_LIMITS.db),
          high: range(CONTROL_LIMITS.db),
          attack: range(CONTROL_LIMITS.attack, 'ms.'),
          release: range(CONTROL_LIMITS.release, 'ms.'),
          targets: { type: 'array', maxItems: MAX_TARGETS, items: { $ref: '#/$defs/target' } },
        }),
        required: ['id', 'name', 'kind', 'targets'],
      },
      switch: closed({
        id,
        page: { enum: BOARD_PAGES },
        bank: whole([0, CAPACITY_RANGES.banks[1] - 1]),
        index: whole([0, CAPACITY_RANGES.switches[1] - 1]),
        label: { type: 'string', maxLength: BOARD_LIMITS.label, description: 'Empty: named by what it does.' },
        ...Object.fromEntries(GESTURES.map((g) => [g, { oneOf: [{ type: 'null' }, { $ref: '#/$defs/function' }] }])),
        midi: bindingSchema(),
      }),
      function: {
        oneOf: [
          closed({ do: { const: 'snapshot' }, snapshot: id }),
          closed({ do: { const: 'stages' }, stages: names(BOARD_LIMITS.stages), how: { enum: ['each', 'together'] } }),
          closed({ do: { const: 'source' }, control: id }),
          closed({ do: { const: 'pedals' }, controls: names(2) }),
          ...(['tap', 'tuner', 'page'] as const).map((kind) => closed({ do: { const: kind } })),
          ...(['bank', 'preset'] as const).map((kind) => closed({ do: { const: kind }, by: { enum: [1, -1] } })),
        ],
      },
      target: closed({
        id,
        stage: id,
        param: { type: 'string', minLength: 1, maxLength: 40 },
        from: { type: ['number', 'string'] },
        to: { type: ['number', 'string'] },
        curve: {
          ...closed({
            shape: { enum: CURVE_SHAPES },
            heel: range([0, MAX_DEAD]),
            toe: range([0, MAX_DEAD]),
            points: { type: 'array', maxItems: MAX_POINTS, items: { type: 'array', minItems: 2, maxItems: 2, items: range([0, 1]) } },
          }),
          required: ['shape', 'heel', 'toe'],
        },
        snapshots: { oneOf: [{ type: 'null' }, { type: 'array', maxItems: MAX_SNAPSHOTS, items: id }] },
      }),
      take: closed({
        id,
        file: { type: 'string', pattern: FILE_PATTERN },
        device: { type: 'string', minLength: 1, maxLength: DEVICE_LIMITS.name },
        date: { type: 'string', pattern: DATE_PATTERN },
        note: { type: 'string', maxLength: DEVICE_LIMITS.note },
        setting: { oneOf: [{ type: 'null' }, range(DEVICE_LIMITS.mark)] },
      }),
      layer: {
        ...closed({
          id,
          preset: { oneOf: [{ type: 'null' }, { type: 'string', minLength: 1, maxLength: 60 }] },
          snapshot: { type: 'string', minLength: 1, maxLength: 40 },
          riff: riffSchema(),
          on: { type: 'boolean' },
          ...(paramsSchema(layerSpecs).properties as Json),
        }),
        required: ['id', 'preset', 'snapshot', 'riff', 'on'],
      },
      snapshot: {
        ...closed({
          id,
          name: { type: 'string', minLength: 1, maxLength: LIMITS.name },
          role: { enum: ROLES },
          offset: range(OFFSET_RANGE, 'LU above the target; by itself 3 for a lead and 0 for the others.'),
          riff: riffSchema(),
          ignored: { type: 'boolean', description: 'Levelling leaves it alone.' },
          tempo: range(LIMITS.tempo, 'Quarter notes a minute, instead of the preset’s.'),
          tap: { enum: NOTE_VALUES.map((n) => n.id), description: 'What one tap stands for.' },
          takes: { type: 'array', maxItems: MAX_TAKES, items: { $ref: '#/$defs/take' } },
          parent: { ...id, description: 'Snapshot that it has grown from.' },
          stages: {
            type: 'object',
            propertyNames: id,
            additionalProperties: {
              type: 'object',
              additionalProperties: false,
              properties: { on: { type: 'boolean' }, params: { type: 'object' }, bench: { $ref: '#/$defs/bench' } },
            },
          },
        }),
        required: ['id', 'name', 'stages'],
      },
    },
  }
}

const micProperties = (): Json => paramsSchema(micSpecs).properties as Json
const fileProperties = (): Json => ({
  file: { type: 'string', pattern: FILE_PATTERN },
  name: { type: 'string', minLength: 1, maxLength: 200 },
  side: { enum: SIDES },
})

const sourceSchema = (kind: string, properties: Json, required: readonly string[] = []): Json => ({
  type: 'object',
  additionalProperties: false,
  required: ['kind', ...required],
  properties: { kind: { const: kind }, ...properties },
})

const whole = ([minimum, maximum]: readonly [number, number]): Json => ({ type: 'integer', minimum, maximum })

const names = (maxItems: number): Json => ({
  type: 'array',
  minItems: 1,
  maxItems,
  uniqueItems: true,
  items: { type: 'string', pattern: ID_PATTERN },
})

const bindingSchema = (): Json => ({
  oneOf: [{ type: 'null' }, closed({ type: { enum: ['cc', 'note'] }, channel: whole([0, 16]), number: whole([0, 127]) })],
})

const riffSchema = (): Json =>
  closed({
    id: { type: 'string', pattern: RIFF_PATTERN },
    strength: { enum: STRENGTHS },
    take: { type: 'integer', minimum: 1, maximum: MAX_RIFF_TAKES },
    pickup: { enum: PICKUPS.map((p) => p.id) },
    tuning: { enum: TUNINGS.map((t) => t.id) },
  })

/** Fields that may be left out wherever they stand; a snapshot's riff is told apart by its own schema. */
const OPTIONAL = new Set([
  '$schema',
  'bench',
  'trim',
  'role',
  'offset',
  'ignored',
  'tap',
  'parent',
  'takes',
  'take',
  'device',
  'layers',
  'controls',
  'board',
  'midiPlan',
  'capacity',
  'pickup',
  'tuning',
])

function closed(properties: Json): Json {
  const required = Object.keys(properties).filter((key) => !OPTIONAL.has(key))
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
