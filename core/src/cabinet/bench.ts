import type { CabDesign } from './loudspeaker'
import type { MicPlace } from './radiation'
import type { CutSlope } from './transfer'

export const MAX_CHANNELS = 8

/** Lengths of a blend at 48 kHz, frames. */
export const BLEND_FRAMES = [2_048, 9_600, 24_000] as const

export type Side = 'sum' | 'left' | 'right'

/** What a channel hears: a simulated microphone before the cabinet, or an impulse response on file. */
export type ChannelSource =
  | ({ readonly kind: 'mic' } & MicPlace)
  /** `file`: SHA-256 of the stored file. */
  | { readonly kind: 'file'; readonly file: string; readonly name: string; readonly side: Side }

/** One channel of the blend. */
export interface BenchChannel {
  readonly id: string
  readonly source: ChannelSource
  /** dB. */
  readonly level: number
  readonly inverted: boolean
  /** µs later; negative is earlier. */
  readonly delay: number
  /** −100 left to 100 right. */
  readonly pan: number
  readonly muted: boolean
  readonly solo: boolean
  readonly lowCut: number
  readonly lowSlope: CutSlope
  readonly highCut: number
  readonly highSlope: CutSlope
  readonly minimumPhase: boolean
}

/** Cabinet, microphones, files and their blend: all that one cabinet stage plays. The first channel is the main one. */
export interface MicBench {
  readonly cab: CabDesign
  readonly channels: readonly BenchChannel[]
  /** Length of the blend at 48 kHz, one of {@link BLEND_FRAMES}. */
  readonly frames: number
}

/** The channels that sound: those with solo, or all that are not muted. */
export function audible(channels: readonly BenchChannel[]): BenchChannel[] {
  const solo = channels.filter((c) => c.solo && !c.muted)
  return solo.length > 0 ? solo : channels.filter((c) => !c.muted)
}

const BLEND = 'blend:'

/** A bench as the id of a response: it says all that is needed to compute it. */
export function blendId({ cab, channels, frames }: MicBench): string {
  const sounding = audible(channels).map(({ id: _id, muted: _muted, solo: _solo, ...rest }) => rest)
  return BLEND + JSON.stringify({ cab, channels: sounding, frames })
}

/** The bench of a response id, or null where the id names a shipped response. */
export function benchOf(responseId: string): MicBench | null {
  if (!responseId.startsWith(BLEND)) return null
  const { cab, channels, frames } = JSON.parse(responseId.slice(BLEND.length)) as MicBench
  return { cab, frames, channels: channels.map((c, i) => ({ ...c, id: String(i), muted: false, solo: false })) }
}

/** Stored files that a response is made of. */
export const filesOf = (responseId: string): string[] =>
  (benchOf(responseId)?.channels ?? []).flatMap(({ source }) => (source.kind === 'file' ? [source.file] : []))

/** In few words: how many channels, and where the main microphone stands. */
export function benchWords({ channels }: MicBench): string {
  const main = channels.at(0)?.source
  const count = `${channels.length} channel${channels.length === 1 ? '' : 's'}`
  if (!main) return 'no channel'
  const place = main.kind === 'file' ? main.name : `main ${main.offset} mm off, ${main.distance} mm away`
  return `${count}, ${place}`
}
