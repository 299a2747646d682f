import { share, unsaid, type Told } from './told'

const FRAME_S = 0.01
const DROP_DB = 22

/**
 * Time that the quickest fall of the sound would take for 60 dB, s: strings and rooms both ring, so that a room rings no longer than this.
 * @param x mono
 */
export function ringOf(x: Float32Array, sampleRate: number): Told<number> {
  const frame = Math.round(FRAME_S * sampleRate)
  const levels = Array.from({ length: Math.floor(x.length / frame) }, (_, f) => {
    let sum = 0
    for (let n = f * frame; n < (f + 1) * frame; n++) sum += x[n] * x[n]
    return 10 * Math.log10(sum / frame + 1e-12)
  })
  const loud = [...levels].sort((a, b) => b - a)[Math.floor(levels.length / 10)] ?? -120
  const times: number[] = []
  for (let f = 0; f < levels.length; f++) {
    if (levels[f] < loud - 12) continue
    // from here the level must fall on and on
    let g = f
    while (g + 1 < levels.length && levels[g + 1] < levels[g] + 0.7) g++
    if (levels[f] - levels[g] >= DROP_DB && levels[f + 1] < levels[f] - 0.2) {
      const start = levels.findIndex((db, k) => k > f && db <= levels[f] - 5)
      const end = levels.findIndex((db, k) => k > f && db <= levels[f] - DROP_DB)
      if (end > start) times.push((60 * (end - start) * FRAME_S) / (levels[start] - levels[end]))
      f = g
    }
  }
  if (times.length === 0) return unsaid('the sound never stops')
  times.sort((a, b) => a - b)
  const quick = times[Math.floor(times.length / 5)]
  return {
    value: quick,
    confidence: share(times.length, 0, 4),
    words: quick < 0.25 ? 'it stops dry' : `it rings no longer than ${quick.toFixed(1)} s for 60 dB`,
  }
}
