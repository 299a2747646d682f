import type { Band } from '@fulgor/core/measure'
import type { Finding, SoundCheck } from './finding'
import { db, heardOf } from './heard'

/** dB by which third octaves and loudness must differ to be told apart in a song (just noticeable on noise are about 0.5–1; common practice). */
const BANDS_DB = 0.7
const LOUD_LU = 0.5

/** Two snapshots that nobody tells apart. */
export const soundAlike: SoundCheck = {
  id: 'sound-alike',
  why: 'A snapshot costs a switch and a press. Two whose spectrum and loudness differ by less than a decibel are one sound with two names. They may differ in something that a short riff does not show: what a pedal does, or how a tail ends.',
  find(heard) {
    const { preset } = heard
    const all = heardOf(heard)
    return all.flatMap((a, i) =>
      all.slice(i + 1).flatMap((b): Finding[] => {
        const riff = (s: typeof a) => JSON.stringify(s.snapshot.riff ?? preset.riff)
        if (riff(a) !== riff(b) || a.reading.output.integratedLufs === null || b.reading.output.integratedLufs === null) return []
        const loud = Math.abs(a.reading.output.integratedLufs - b.reading.output.integratedLufs)
        const bands = apart(a.reading.output.thirdOctave, b.reading.output.thirdOctave)
        const width = Math.abs((a.reading.monoLossLu ?? 0) - (b.reading.monoLossLu ?? 0))
        if (bands > BANDS_DB || loud > LOUD_LU || width > LOUD_LU || assigned(preset, a.snapshot.id, b.snapshot.id)) return []
        return [
          {
            rule: soundAlike.id,
            severity: 'note',
            where: [],
            snapshots: [a.snapshot.id, b.snapshot.id],
            figure: `${a.snapshot.name} and ${b.snapshot.name} differ by ${db(bands)} dB a third octave and ${db(loud)} LU.`,
            reason: 'To the ear they are one sound.',
            mends: [],
          },
        ]
      }),
    )
  },
}

/** RMS difference of the bands that sound in either, dB. */
function apart(a: readonly Band[], b: readonly Band[]): number {
  const loudest = Math.max(...a.map((x) => x.db ?? -200), ...b.map((x) => x.db ?? -200))
  const both = a.flatMap((x, i) => {
    const [p, q] = [x.db ?? -200, b[i].db ?? -200]
    return Math.max(p, q) > loudest - 45 ? [Math.min(30, Math.abs(p - q))] : []
  })
  return both.length === 0 ? 0 : Math.sqrt(both.reduce((sum, d) => sum + d * d, 0) / both.length)
}

/** A source acts in one of them only: they differ under the foot. */
const assigned = (preset: Parameters<SoundCheck['find']>[0]['preset'], a: string, b: string): boolean =>
  (preset.controls ?? []).some((c) => c.targets.some((t) => t.snapshots !== null && t.snapshots.includes(a) !== t.snapshots.includes(b)))
