import { BLEND_FRAMES, MAX_CHANNELS, type BenchChannel, type ChannelSource, type MicBench } from '@fulgor/core/cabinet'
import { cabSpecs, channelFlags, channelSpecs, createChannel, defaultCab, defaultMic, micSpecs } from '@fulgor/core/catalogue'
import {
  asObject,
  at,
  choice,
  constant,
  flag,
  id,
  list,
  fileHash,
  named,
  record,
  tagged,
  text,
  type Field,
  type Json,
} from '@fulgor/core/document'
import { readValues, valuesSchema } from '../values'

const micField: Field<ChannelSource> = {
  read(value, path) {
    const { kind: _, ...values } = asObject(value, path)
    return { ...defaultMic(), ...(readValues(values, path, micSpecs, 'microphone') as object) }
  },
  schema: () => withKeys(valuesSchema(micSpecs), { kind: { const: 'mic' } }, ['kind']),
}

const fileField = record({
  kind: constant('file'),
  file: fileHash(),
  name: text(200),
  side: choice(['sum', 'left', 'right']),
})

const sourceField: Field<ChannelSource> = tagged('kind', { mic: micField, file: fileField })

const idField = id()
const flags = Object.keys(channelFlags) as (keyof typeof channelFlags)[]
const flagField = flag()

const channelField: Field<BenchChannel> = named<BenchChannel>('channel', () => ({
  read(value, path, reading) {
    const { id: own, source, ...rest } = asObject(value, path)
    const made = createChannel(idField.read(own, at(path, 'id'), reading), sourceField.read(source, at(path, 'source'), reading))
    const values = Object.entries(rest).filter(([key]) => !Object.hasOwn(channelFlags, key))
    const switched = flags.flatMap((key) => (rest[key] === undefined ? [] : [[key, flagField.read(rest[key], at(path, key), reading)]]))
    return {
      ...made,
      ...(readValues(Object.fromEntries(values), path, channelSpecs, 'channel') as object),
      ...(Object.fromEntries(switched) as object),
    }
  },
  schema: (defs) =>
    withKeys(
      valuesSchema(channelSpecs),
      {
        id: idField.schema(defs),
        source: sourceField.schema(defs),
        ...Object.fromEntries(flags.map((key) => [key, flagField.schema(defs)])),
      },
      ['id', 'source'],
    ),
}))

const cabField: Field<MicBench['cab']> = {
  read: (value, path) => ({ ...defaultCab(), ...(readValues(value, path, cabSpecs, 'cab') as Partial<MicBench['cab']>) }),
  schema: () => valuesSchema(cabSpecs),
}

/** What the blend of a cabinet is made of; values that are missing take their defaults. */
export const benchField: Field<MicBench> = named('bench', () =>
  record({
    cab: cabField,
    channels: list(channelField, MAX_CHANNELS, { ids: 'own' }),
    frames: choice(BLEND_FRAMES, { about: 'Length of the blend at 48 kHz.' }),
  }),
)

const withKeys = (schema: Json, properties: Json, required: readonly string[]): Json => ({
  ...schema,
  required,
  properties: { ...properties, ...(schema.properties as Json) },
})
