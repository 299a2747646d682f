import { BLEND_FRAMES, MAX_CHANNELS, type BenchChannel, type ChannelSource, type MicBench } from '@fulgor/core/cabinet'
import { cabSpecs, channelFlags, channelSpecs, createChannel, defaultCab, defaultMic, micSpecs } from '@fulgor/core/catalogue'
import { array, flag, noOthers, object, PresetError, readId, readValues, text } from './fields'

/** What the hash of a stored file looks like. */
export const FILE_PATTERN = '^[0-9a-f]{64}$'
const filePattern = new RegExp(FILE_PATTERN)
export const SIDES = ['sum', 'left', 'right'] as const
const FLAGS = Object.keys(channelFlags) as (keyof typeof channelFlags)[]

/** Reads an unknown value as a mic bench; values that are missing take their defaults. @throws PresetError */
export function readBench(value: unknown, path: string): MicBench {
  const o = object(value, path)
  noOthers(o, path, ['cab', 'channels', 'frames'])
  const ids = new Set<string>()
  if (!BLEND_FRAMES.some((frames) => frames === o.frames))
    throw new PresetError(`${path}.frames`, `must be one of ${BLEND_FRAMES.join(', ')}.`)
  return {
    cab: { ...defaultCab(), ...(readValues(o.cab, `${path}.cab`, cabSpecs, 'cab') as Partial<MicBench['cab']>) },
    channels: array(o.channels, `${path}.channels`, MAX_CHANNELS).map((c, i) => readChannel(c, `${path}.channels[${i}]`, ids)),
    frames: o.frames as number,
  }
}

function readChannel(value: unknown, path: string, ids: Set<string>): BenchChannel {
  const { id, source, ...rest } = object(value, path)
  const flags = Object.fromEntries(FLAGS.flatMap((key) => (rest[key] === undefined ? [] : [[key, flag(rest[key], `${path}.${key}`)]])))
  const values = Object.fromEntries(Object.entries(rest).filter(([key]) => !FLAGS.some((f) => f === key)))
  return {
    ...createChannel(readId(id, `${path}.id`, ids), readSource(source, `${path}.source`)),
    ...(readValues(values, path, channelSpecs, 'channel') as object),
    ...flags,
  }
}

function readSource(value: unknown, path: string): ChannelSource {
  const { kind, ...rest } = object(value, path)
  if (kind === 'mic') return { ...defaultMic(), ...(readValues(rest, path, micSpecs, 'microphone') as object) }
  if (kind !== 'file') throw new PresetError(`${path}.kind`, 'must be “mic” or “file”.')
  noOthers(rest, path, ['file', 'name', 'side'])
  if (typeof rest.file !== 'string' || !filePattern.test(rest.file))
    throw new PresetError(`${path}.file`, 'must be a SHA-256 in hexadecimal.')
  const side = SIDES.find((s) => s === rest.side)
  if (!side) throw new PresetError(`${path}.side`, `must be one of ${SIDES.join(', ')}.`)
  return { kind, file: rest.file, name: text(rest.name, `${path}.name`, 200, 1), side }
}
