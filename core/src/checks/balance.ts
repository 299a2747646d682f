import type { Band } from '@fulgor/core/measure'
import { modelOf } from '@fulgor/core/catalogue'
import { stagesOf } from '@fulgor/core/preset'
import { bandMeanDb, bandPowerDb } from './bands'
import type { Finding, SoundCheck } from './finding'
import { db, grouped, heardOf, listed } from './heard'

interface Complaint {
  readonly id: string
  readonly why: string
  readonly hz: number
  /** dB that it stands out by, from where it is told. */
  readonly from: number
  readonly out: (bands: readonly Band[]) => number | null
  readonly words: (out: string) => string
  readonly reason: string
}

const over = (bands: readonly Band[], own: readonly [number, number], beside: readonly (readonly [number, number])[]): number | null => {
  const inside = bandMeanDb(bands, ...own)
  const around = beside.map((b) => bandMeanDb(bands, ...b))
  return inside === null || around.includes(null) ? null : inside - around.reduce((sum: number, x) => sum + Number(x), 0) / around.length
}

/** What stands out of the spectrum at the output, read on the snapshot's own riff. */
function balance(c: Complaint): SoundCheck {
  return {
    id: c.id,
    why: c.why,
    find(heard) {
      const { preset } = heard
      const hits = heardOf(heard).flatMap(({ snapshot, reading }) => {
        if (!stagesOf(preset.chain).some((s) => modelOf(s.model).family === 'amp')) return []
        const out = c.out(reading.output.thirdOctave)
        return out !== null && out > c.from ? [{ snapshot, out }] : []
      })
      return grouped(hits, () => '').map((same): Finding => {
        const worst = same.reduce((a, b) => (b.out > a.out ? b : a))
        return {
          rule: c.id,
          severity: 'note',
          where: [],
          snapshots: same.map((h) => h.snapshot.id),
          hz: c.hz,
          figure: `${c.words(db(worst.out))} in ${listed(same.map((h) => h.snapshot.name))}.`,
          amount: { value: worst.out, unit: 'dB', against: `told from ${c.from}` },
          reason: c.reason,
          mends: [],
        }
      })
    },
  }
}

/** All limits here are common practice, no source. */
export const cardboard = balance({
  id: 'cardboard',
  why: 'A hump between 400 and 600 Hz sounds like a box: it comes from the cabinet, from two microphones that add up there, or from a boost that was made on small loudspeakers. In a band it covers the voice. Small-box sounds are made of it, and wanted there.',
  hz: 500,
  from: 6,
  out: (bands) =>
    over(
      bands,
      [400, 630],
      [
        [200, 315],
        [800, 1_250],
      ],
    ),
  words: (out) => `400 to 630 Hz stand ${out} dB over what lies beside them`,
  reason: 'It sounds of cardboard.',
})

export const whistle = balance({
  id: 'whistle',
  why: 'A narrow peak near 4 kHz whistles over every note. Loudspeakers have it, and microphones in front of the dust cap hear most of it. A narrow cut of 3 to 5 dB, or a microphone some centimetres off the centre, takes it away and leaves the bite.',
  hz: 4_000,
  from: 4,
  out: (bands) => Math.max(...[3_150, 4_000, 5_000].map((hz) => standsOut(bands, hz))),
  words: (out) => `One third octave between 3 and 5 kHz stands ${out} dB over both beside it`,
  reason: 'It whistles over the notes.',
})

/** dB that a band stands over the louder of its two neighbours: the edge of a loudspeaker's range is no peak. */
function standsOut(bands: readonly Band[], hz: number): number {
  const at = bands.findIndex((b) => b.hz === hz)
  const [below, own, above] = [bands[at - 1], bands[at], bands[at + 1]].map((b) => b.db)
  return below === null || own === null || above === null ? 0 : own - Math.max(below, above)
}

export const fizz = balance({
  id: 'fizz',
  why: 'A guitar loudspeaker ends near 5 kHz; what a preset has above it is mostly clipping. A PA and headphones play it, a guitar cabinet would not. Some cut it hard at the cabinet; others leave it open, for the era or the mix. It is told where it is nearly as loud as the presence range.',
  hz: 7_000,
  from: -6,
  out: (bands) => bandPowerDb(bands, 5_600, 12_500) - bandPowerDb(bands, 1_000, 4_500),
  words: (out) => `Above 5 kHz there is ${out} dB against 1 to 4.5 kHz`,
  reason: 'It fizzes on a full-range system.',
})
