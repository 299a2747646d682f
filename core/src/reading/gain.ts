/** What a gate or compressor does to a riff. */
export interface GainFigures {
  /** Share of the time that something sounds before it in which it takes away more than 3 dB, 0–1. */
  readonly share: number
  /** dB that it takes away at most and on average in that time, against what it lets through at most. */
  readonly deepestDb: number
  readonly meanDb: number
}

const FRAME_S = 0.01
/** Softer than this under the loudest frame nothing sounds, dB. */
const SOUNDING_DB = 50

/**
 * Gain reduction as it is heard: RMS over 10 ms behind a stage against that before it, from the least reduction on, so that make-up
 * does not hide it.
 */
export function gainOf(before: Float32Array, after: Float32Array, sampleRate: number): GainFigures {
  const frame = Math.round(FRAME_S * sampleRate)
  const levels: { input: number; gain: number }[] = []
  for (let at = 0; at + frame <= before.length; at += frame) {
    let [a, b] = [1e-20, 1e-20]
    for (let n = at; n < at + frame; n++) {
      a += before[n] * before[n]
      b += after[n] * after[n]
    }
    levels.push({ input: 10 * Math.log10(a / frame), gain: 10 * Math.log10(b / a) })
  }
  const loudest = Math.max(...levels.map((l) => l.input))
  const sounding = levels.filter((l) => l.input > loudest - SOUNDING_DB).map((l) => l.gain)
  if (sounding.length === 0) return { share: 0, deepestDb: 0, meanDb: 0 }
  // a single frame may swing over: what one in a hundred passes is full
  const full = [...sounding].sort((x, y) => y - x)[Math.floor(sounding.length / 100)]
  const taken = sounding.map((gain) => Math.max(0, full - gain))
  return {
    share: taken.filter((db) => db > 3).length / taken.length,
    deepestDb: Math.max(...taken),
    meanDb: taken.reduce((sum, db) => sum + db, 0) / taken.length,
  }
}
