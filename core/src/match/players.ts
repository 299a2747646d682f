import { share, type Told, unsaid } from '@fulgor/core/measure'
import { framesOf } from './frames'

export interface FoundOthers {
  /** Share of the energy that strokes without pitch hold: drums, and muted strings. */
  readonly strokes: number
  /** Share of the energy below a guitar's lowest string. */
  readonly below: number
  /** Hz from which on up a guitar can be told from what plays below it. */
  readonly fromHz: number
}

/** Frames and bins that medians run over (Fitzgerald, DAFx 2010: 17). */
const REACH = 8
/** s that are looked at. */
const MOST_S = 20
const LOWEST_HZ = 70

/** Who else plays: strokes without pitch by medians along time and frequency, bass by what lies below the guitar. @param x mono */
export function othersIn(x: Float32Array, sampleRate: number): Told<FoundOthers> {
  if (x.length < sampleRate) return unsaid('shorter than a second')
  const { magnitudes, binHz } = framesOf(
    x.subarray(0, MOST_S * sampleRate),
    sampleRate,
    4_096,
    1_024,
    Math.ceil((8_000 * 4_096) / sampleRate),
  )
  const frames = magnitudes.length
  const bins = magnitudes[0].length
  const window = new Float32Array(2 * REACH + 1)
  const middle = (fill: (k: number) => number): number => {
    for (let k = -REACH; k <= REACH; k++) window[k + REACH] = fill(k)
    return window.sort()[REACH]
  }
  let [whole, strokes, below, low] = [0, 0, 0, 0]
  // every other frame says enough
  for (let f = REACH; f < frames - REACH; f += 2)
    for (let b = 1; b < bins; b++) {
      const power = magnitudes[f][b] ** 2
      whole += power
      const hz = b * binHz
      if (hz < LOWEST_HZ) below += power
      if (hz < 200) low += power
      if (b < REACH + 1 || b >= bins - REACH) continue
      const held = middle((k) => magnitudes[f + k][b])
      const struck = middle((k) => magnitudes[f][b + k])
      if (struck > 2 * held) strokes += power
    }
  if (whole < 1e-9) return unsaid('silence')
  const found: FoundOthers = {
    strokes: strokes / whole,
    below: below / whole,
    fromHz: below / whole > 0.08 ? (low / whole > 0.5 ? 200 : 125) : 100,
  }
  const named = [...(found.below > 0.08 ? ['bass'] : []), ...(found.strokes > 0.06 ? ['drums or muted strings'] : [])]
  return {
    value: found,
    confidence:
      share(frames, 40, 200) *
      (named.length > 0 ? share(Math.max(found.below / 0.08, found.strokes / 0.06), 1, 2.5) : share(0.08 - found.below, 0, 0.06)),
    words: named.length > 0 ? `${named.join(' and ')} in it` : 'a guitar by itself, as far as can be heard',
  }
}
