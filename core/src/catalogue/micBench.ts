import {
  BLEND_FRAMES,
  cabinetResponses,
  drivers,
  microphones,
  type BenchChannel,
  type CabDesign,
  type ChannelSource,
  type MicBench,
} from '@fulgor/core/cabinet'
import { choice, db, degrees, hertz, mm, onOff, pan, percent, us, type NumberSpec, type ParamSpecs } from './params'

const slope = (label: string) =>
  choice({
    label,
    options: [
      ['off', 'Off'],
      ['6', '6 dB/oct'],
      ['12', '12 dB/oct'],
      ['24', '24 dB/oct'],
    ],
    initial: 'off',
  })

/** Loudspeaker and box of a bench. */
export const cabSpecs = {
  driver: choice({ label: 'Driver', options: drivers.map((d) => [d.id, d.name] as const), initial: drivers[0].id }),
  size: choice({
    label: 'Size',
    options: [
      ['10', '10 inch'],
      ['12', '12 inch'],
    ],
    initial: '12',
  }),
  drivers: choice({
    label: 'Drivers',
    options: [
      ['1', '1'],
      ['2', '2'],
      ['4', '4'],
    ],
    initial: '1',
  }),
  back: choice({
    label: 'Back',
    options: [
      ['open', 'Open'],
      ['closed', 'Closed'],
    ],
    initial: 'open',
  }),
  second: choice({
    label: 'Second kind of driver',
    options: [['same', 'Drivers all alike'], ...drivers.map((d) => [d.id, d.name] as const)],
    initial: 'same',
  }),
} satisfies ParamSpecs

/** A simulated microphone of a bench. */
export const micSpecs = {
  type: choice({ label: 'Microphone', options: microphones.map((m) => [m.id, m.name] as const), initial: 'coil' }),
  offset: mm({ label: 'Offset', short: 'off', min: 0, max: 160, initial: 12 }),
  bearing: degrees({ label: 'Bearing', min: -180, max: 180, initial: 0, step: 5 }),
  distance: mm({ label: 'Distance', short: 'dist', min: 5, max: 1_500, initial: 25 }),
  angle: degrees({ label: 'Angle', min: -60, max: 60, initial: 0 }),
  reflections: percent({ label: 'Reflections', initial: 0 }),
  room: percent({ label: 'Room', initial: 0 }),
  roomKind: choice({
    label: 'Kind of room',
    options: [
      ['small', 'Small'],
      ['damped', 'Damped'],
      ['hall', 'Hall'],
    ],
    initial: 'small',
  }),
  air: db({ label: 'Air of the room', short: 'air', min: -12, max: 9, initial: 0 }),
  stands: choice({
    label: 'Stands at',
    options: [
      ['first', 'The first driver'],
      ['second', 'The second kind'],
    ],
    initial: 'first',
  }),
} satisfies ParamSpecs

/** A channel of a bench, whatever it hears. */
export const channelSpecs = {
  level: db({ label: 'Level', min: -40, max: 12, initial: 0 }),
  delay: us({ label: 'Delay', min: -6_000, max: 6_000, initial: 0 }),
  pan: pan({ label: 'Pan' }),
  lowCut: hertz({ label: 'Low cut', min: 20, max: 800, initial: 80 }),
  lowSlope: slope('Low cut slope'),
  highCut: hertz({ label: 'High cut', min: 1_000, max: 20_000, initial: 9_000 }),
  highSlope: slope('High cut slope'),
} satisfies ParamSpecs

export const channelFlags = {
  inverted: onOff({ label: 'Polarity' }),
  muted: onOff({ label: 'Mute' }),
  solo: onOff({ label: 'Solo' }),
  minimumPhase: onOff({ label: 'Minimum phase' }),
}

const initials = (specs: ParamSpecs): Record<string, number | string> =>
  Object.fromEntries(Object.entries(specs).map(([key, spec]) => [key, spec.initial]))

export const defaultCab = (): CabDesign => initials(cabSpecs) as unknown as CabDesign

export const defaultMic = (type = 'coil'): ChannelSource =>
  ({ kind: 'mic', ...(initials(micSpecs) as never as object), type }) as ChannelSource

/** A channel at its defaults. */
export function createChannel(id: string, source: ChannelSource = defaultMic()): BenchChannel {
  const plain = initials(channelSpecs) as unknown as Pick<BenchChannel, keyof typeof channelSpecs>
  return { id, source, ...plain, inverted: false, muted: false, solo: false, minimumPhase: false }
}

/** One moving coil near the centre of one driver. */
export const createBench = (): MicBench => ({ cab: defaultCab(), channels: [createChannel('c1')], frames: BLEND_FRAMES[0] })

/** The bench behind a shipped response: its cabinet, and its microphone where it stands; a new bench for any other id. */
export function benchBehind(response: string): MicBench {
  const shipped = cabinetResponses.find((r) => r.id === response)
  if (!shipped) return createBench()
  const source = { ...defaultMic(shipped.place.type), ...shipped.place } as ChannelSource
  return { ...createBench(), cab: { ...defaultCab(), ...shipped.cab }, channels: [createChannel('c1', source)] }
}

/** The spec of a number of a channel or of its microphone. */
export const benchNumber = (key: string): NumberSpec => {
  const spec = ({ ...channelSpecs, ...micSpecs } as ParamSpecs)[key]
  if (spec?.kind !== 'number') throw new RangeError(`“${key}” is no number of a channel.`)
  return spec
}
