import { BAND_HZ, drivers, microphones, type CabDesign, type ChannelSource, type MicBench, type MicPlace } from '@fulgor/core/cabinet'
import { BENCH_RESPONSE, createChannel, defaultMic } from '@fulgor/core/catalogue'
import { THIRD_OCTAVES } from '@fulgor/core/measure'
import { bentDb, type Blend, type Taste, type Trusted } from '@fulgor/core/match'
import type { Edit } from '@fulgor/core/preset'

/** What stands in a cabinet's place: a file of the library, or a microphone before a loudspeaker. */
export type Source =
  | { readonly kind: 'file'; readonly file: string; readonly name: string }
  | { readonly kind: 'mic'; readonly cab: CabDesign; readonly place: MicPlace }

/** Designs that are tried: the bench's own, and every kind of driver in an open and a closed box. */
export const designsFor = (own: CabDesign): readonly CabDesign[] => [
  own,
  ...drivers.flatMap(({ id }) =>
    (['open', 'closed'] as const)
      .map((back): CabDesign => ({ ...own, driver: id, back, second: 'same' }))
      .filter((cab) => !(cab.driver === own.driver && cab.back === own.back)),
  ),
]

/** Places by which a design is judged at first. */
export const FIRST_PLACES: readonly MicPlace[] = microphones.flatMap(({ id: type }) =>
  [12, 40, 75].map((offset) => ({ type, offset, bearing: 0, distance: 25, angle: 0, reflections: 0, room: 0 })),
)

/** Places around one that was found: nearer, further, turned. */
export const placesAround = (place: MicPlace): readonly MicPlace[] =>
  [-8, 0, 8].flatMap((mm) =>
    [0.7, 1, 1.4].flatMap((times) =>
      [0, 30].map((angle) => ({
        ...place,
        offset: Math.min(160, Math.max(0, place.offset + mm)),
        distance: Math.round(Math.min(1_500, Math.max(5, place.distance * times))),
        angle,
      })),
    ),
  )

/**
 * Responses on file by how near they bring a sound to a recording, by what is known of each: third octaves. Nearest first.
 * @param bare third octaves of the sound before the cabinet
 * @param wanted third octaves of the recording
 */
export function nearestFiles(
  files: readonly { readonly bands: readonly number[] }[],
  bare: readonly (number | null)[],
  wanted: readonly (number | null)[],
  { fromHz, toHz }: Trusted,
  tastes: readonly Taste[],
): { index: number; db: number }[] {
  const bands = BAND_HZ.flatMap((hz, k) => {
    const at = THIRD_OCTAVES.indexOf(hz)
    const [a, b] = [bare[at], wanted[at]]
    return at < 0 || hz < fromHz || hz > toHz || a === null || b === null ? [] : [{ k, apart: a - b - bentDb(tastes, hz) }]
  })
  return files
    .map(({ bands: own }, index) => {
      let [sum, square] = [0, 0]
      for (const { k, apart } of bands) {
        const v = apart + own[k]
        sum += v
        square += v * v
      }
      const mean = sum / Math.max(1, bands.length)
      return { index, db: Math.sqrt(Math.max(0, square / Math.max(1, bands.length) - mean * mean)) }
    })
    .sort((a, b) => a.db - b.db)
}

/** A source with what ranking knows of it. */
export interface Ranked {
  readonly source: Source
  /** µs at which its first sound stands. */
  readonly onsetUs: number
  /** dB that it was turned by to be at equal power. */
  readonly gainDb: number
}

const channelOf = (source: Source): ChannelSource =>
  source.kind === 'mic'
    ? { ...defaultMic(source.place.type), ...source.place, kind: 'mic' }
    : { kind: 'file', file: source.file, name: source.name, side: 'sum' }

/** The bench that plays a blend. */
export function benchFor(blend: Blend, of: readonly Ranked[], own: MicBench): MicBench {
  const parts = [blend.first, ...(blend.second === null ? [] : [blend.second])].map((k) => of[k])
  const cab = parts.map((p) => (p.source.kind === 'mic' ? p.source.cab : null)).find((c) => c !== null) ?? own.cab
  const [first, second] = parts
  if (parts.length === 1) return { cab, channels: [createChannel('c1', channelOf(first.source))], frames: own.frames }
  // the louder one stands at 0 dB: a channel is turned down further than up
  const apart = Math.round(10 * (blend.levelDb + second.gainDb - first.gainDb)) / 10
  const channels = [
    { ...createChannel('c1', channelOf(first.source)), level: Math.max(-40, Math.min(0, -apart)) },
    {
      ...createChannel('c2', channelOf(second.source)),
      level: Math.max(-40, Math.min(0, apart)),
      inverted: blend.inverted,
      delay: Math.round(Math.min(6_000, Math.max(-6_000, blend.lateUs + first.onsetUs - second.onsetUs))),
    },
  ]
  return { cab, channels, frames: own.frames }
}

export const cabinetEdit = (stage: string, snapshot: string, bench: MicBench): Edit => ({
  type: 'all',
  edits: [
    { type: 'setBench', stage, snapshot, bench, touched: 'matched' },
    { type: 'setOn', stage, snapshot, on: true },
    { type: 'setParam', stage, snapshot, param: 'response', value: BENCH_RESPONSE },
  ],
})

/** Whether two sources can stand on one bench: it holds one loudspeaker. */
export const together = (a: Source, b: Source): boolean =>
  a.kind === 'file' || b.kind === 'file' || JSON.stringify(a.cab) === JSON.stringify(b.cab)

/** “Ribbon 36/60”, or the file's name. */
export function sourceWords(source: Source): string {
  if (source.kind === 'file') return source.name
  const { type, offset, distance, angle } = source.place
  const name = microphones.find((m) => m.id === type)?.name ?? type
  return `${name} ${offset}/${distance} mm${angle === 0 ? '' : `, ${angle}°`}`
}

export const designWords = ({ driver, back, size, drivers: count }: CabDesign): string =>
  `${count} × ${size}, ${back}, ${(drivers.find((d) => d.id === driver)?.name ?? driver).toLowerCase()}`
