import { share, type Told, topBetween, unsaid } from '@fulgor/core/measure'
import { framesOf } from './frames'

export interface FoundTuning {
  /** Cents of the nearest half steps off A 440, −50–50. */
  readonly cents: number
  /** Lowest note that is played again and again, half steps from E2; null where none is. */
  readonly lowest: number | null
}

const SIZE = 16_384
/** Hz between which partials are taken for notes; above, stiff strings are sharp. */
const FROM_HZ = 60
const TO_HZ = 1_000
const E2_HZ = 82.4069

const NAMES: Readonly<Record<string, string>> = {
  '0': 'standard',
  '-1': 'half a step down',
  '-2': 'a whole step down, or drop D',
  '-3': 'a step and a half down, or drop D♭',
  '-4': 'two steps down, or drop C',
  '-5': 'low B',
  '-6': 'low B♭',
  '-7': 'low A',
}

/** @param x mono */
export function tuningOfSound(x: Float32Array, sampleRate: number): Told<FoundTuning> {
  if (x.length < 2 * SIZE) return unsaid(`a stretch of ${(x.length / sampleRate).toFixed(1)} s is too short`)
  const { magnitudes, binHz } = framesOf(x, sampleRate, SIZE, SIZE / 4, Math.ceil((TO_HZ * SIZE) / sampleRate) + 4)
  const loudest = magnitudes.reduce((top, frame) => frame.reduce((m, v) => Math.max(m, v), top), 0)
  if (loudest < 1e-6) return unsaid('silence')
  let [re, im, weight] = [0, 0, 0]
  const low = new Map<number, number>()
  let voiced = 0
  for (const frame of magnitudes) {
    const top = frame.reduce((m, v) => Math.max(m, v), 0)
    if (top < 0.05 * loudest) continue
    voiced++
    let lowest = -Infinity
    for (let k = Math.ceil(FROM_HZ / binHz); k < frame.length - 2; k++) {
      if (frame[k] < 0.06 * top || frame[k] <= frame[k - 1] || frame[k] < frame[k + 1]) continue
      const [a, b, c] = [frame[k - 1], frame[k], frame[k + 1]].map((v) => Math.log(v + 1e-12))
      // a partial is a narrow peak: noise and strokes are not
      if (b - Math.log(Math.max(frame[k - 3], frame[k + 3] ?? 0) + 1e-12) < 1.2) continue
      const hz = (k + topBetween(a, b, c)) * binHz
      const steps = 12 * Math.log2(hz / 440)
      const off = 2 * Math.PI * (steps - Math.round(steps))
      const heavy = Math.sqrt(frame[k])
      re += heavy * Math.cos(off)
      im += heavy * Math.sin(off)
      weight += heavy
      if (lowest === -Infinity && frame[k] > 0.12 * top) lowest = Math.round(12 * Math.log2(hz / E2_HZ))
    }
    if (Number.isFinite(lowest)) low.set(lowest, (low.get(lowest) ?? 0) + 1)
  }
  if (weight === 0) return unsaid('no notes stand out')
  const together = Math.hypot(re, im) / weight
  const confidence = share(together, 0.35, 0.85) * share(voiced, 2, 8)
  if (confidence === 0) return unsaid('notes do not agree on a pitch')
  const cents = (100 * Math.atan2(im, re)) / (2 * Math.PI)
  const often = [...low].filter(([, n]) => n >= 0.04 * voiced).map(([note]) => note)
  const lowest = often.length === 0 ? null : Math.min(...often)
  const named = lowest === null ? undefined : NAMES[String(lowest)]
  const words = named ?? (lowest !== null && lowest > 0 ? 'no low string is heard' : 'lower than a low A')
  return { value: { cents, lowest }, confidence, words }
}
