import { averageSpectrum, bandPower, noteOf } from '@fulgor/core/measure'
import { NECK_NOTES, NECK_NOTE_S } from '@fulgor/core/riffs'

/** A partial of one single note that stands out of the note by more than the guitar gives it. */
export interface HarshNote {
  /** As in “A4”. */
  readonly note: string
  readonly hz: number
  readonly db: number
}

/** Where single notes turn harsh, Hz (common practice, no source). */
const FROM_HZ = 1_600
const TO_HZ = 2_500
/** Partials that lie deeper under the note are not what is heard of it, dB. */
const HEARD = 30

/**
 * The harshest of single notes up the neck: a partial between 1.6 and 2.5 kHz that stands over both its neighbours, against what the
 * dry guitar has there. An average over a riff hides it, since other notes have no partial at this place.
 * @param dry as {@link neckNotes} plays them
 * @param heard the same through the preset, mono
 */
export function harshNote(dry: Float32Array, heard: Float32Array, sampleRate: number): HarshNote | null {
  const span = Math.round(NECK_NOTE_S * sampleRate)
  const skip = Math.round(0.04 * sampleRate)
  let worst: HarshNote | null = null
  NECK_NOTES.forEach(({ hz: f0 }, i) => {
    const [a, b] = [dry, heard].map((x) => averageSpectrum([x.subarray(i * span + skip, (i + 1) * span)], sampleRate, 8_192, 2_048))
    const partial = (of: typeof a, n: number) => 10 * Math.log10(bandPower(of, n * f0 * 0.97, n * f0 * 1.03) + 1e-20)
    const first = Math.max(1, Math.ceil(FROM_HZ / f0))
    const loudestPartial = Math.max(...Array.from({ length: 8 }, (_, k) => partial(b, k + 1)))
    for (let n = first; n * f0 <= TO_HZ; n++) {
      const over = (of: typeof a) => partial(of, n) - Math.max(n > 1 ? partial(of, n - 1) : -Infinity, partial(of, n + 1))
      if (partial(b, n) < loudestPartial - HEARD) continue
      const db = over(b) - Math.max(0, over(a))
      if (!worst || db > worst.db) {
        const { name, octave } = noteOf(f0)
        worst = { note: `${name}${octave}`, hz: n * f0, db }
      }
    }
  })
  return worst
}
