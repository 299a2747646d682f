import { nanoid } from 'nanoid'
import { MAX_CHANNELS, microphones, type BenchChannel, type ChannelSource, type MicBench } from '@fulgor/core/cabinet'
import { BENCH_RESPONSE, benchBehind, createChannel, modelOf, roundValue } from '@fulgor/core/catalogue'
import { BENCH_KEY, stagesOf, type Preset, type ResolvedStage, type StageNode } from '@fulgor/core/preset'
import { edit, landsIn } from '../../state/actions'
import type { Thunk } from '../../state/store'

/** What a drawing of the loudspeaker shows and moves. */
export interface DrawingProps {
  readonly bench: MicBench
  /** The channel that is marked. */
  readonly selected: string
  readonly onSelect: (channel: string) => void
  readonly onChange: (bench: MicBench, touched: string) => void
}

/** Cabinets of a preset, top to bottom. */
export const cabinetsOf = (preset: Preset): StageNode[] => stagesOf(preset.chain).filter((s) => modelOf(s.model).family === 'cabinet')

/** What lies on a cabinet's bench in a snapshot: the player's own, or what is behind the response that is played, until it is touched. */
export function benchFor({ bench, params }: ResolvedStage): MicBench {
  if (bench) return bench
  const response = String(params.response)
  const known = untouched.get(response) ?? benchBehind(response)
  untouched.set(response, known)
  return known
}

const untouched = new Map<string, MicBench>()

export const playsBench = ({ params }: ResolvedStage): boolean => params.response === BENCH_RESPONSE

/** Puts a changed bench into the stage, where it is heard. */
export const changeBench =
  (stage: StageNode, bench: MicBench, touched: string): Thunk =>
  (dispatch, getState) =>
    dispatch(edit({ type: 'setBench', stage: stage.id, snapshot: landsIn(getState(), stage.id, BENCH_KEY), bench, touched }))

export const withChannel = (bench: MicBench, id: string, change: (channel: BenchChannel) => BenchChannel): MicBench => ({
  ...bench,
  channels: bench.channels.map((c) => (c.id === id ? change(c) : c)),
})

export const withMic = (channel: BenchChannel, change: Partial<Extract<ChannelSource, { kind: 'mic' }>>): BenchChannel =>
  channel.source.kind === 'mic' ? { ...channel, source: { ...channel.source, ...change } } : channel

/** @returns the bench with one more channel and its id, or null when it is full */
export function addChannel(bench: MicBench, source: ChannelSource): { bench: MicBench; id: string } | null {
  if (bench.channels.length >= MAX_CHANNELS) return null
  const id = nanoid(8)
  return { id, bench: { ...bench, channels: [...bench.channels, createChannel(id, source)] } }
}

export const withoutChannel = (bench: MicBench, id: string): MicBench => ({
  ...bench,
  channels: bench.channels.filter((c) => c.id !== id),
})

export const asMain = (bench: MicBench, id: string): MicBench => ({
  ...bench,
  channels: [...bench.channels.filter((c) => c.id === id), ...bench.channels.filter((c) => c.id !== id)],
})

export const channelName = ({ source }: BenchChannel): string =>
  source.kind === 'file' ? source.name : (microphones.find((m) => m.id === source.type)?.name ?? source.type)

/** Above the axis in a drawing from the side: each microphone in its own plane. */
export const sideOffset = ({ offset, bearing }: { offset: number; bearing: number }): number => (bearing < 0 ? -offset : offset)

export const delayValue = (us: number): number => roundValue(Math.max(-6_000, Math.min(6_000, us)))
