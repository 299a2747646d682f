/** s of one look at the level. */
const LOOK = 0.02

/**
 * How far the softest tenth of a sound lies under its loudest, dB: large where there is room between the notes; null for silence.
 * @param sound mono
 */
export function gapDepthDb(sound: ArrayLike<number>, sampleRate: number): number | null {
  const frames = Math.round(LOOK * sampleRate)
  const levels: number[] = []
  for (let at = 0; at + frames <= sound.length; at += frames) {
    let power = 0
    for (let n = at; n < at + frames; n++) power += sound[n] * sound[n]
    levels.push(power / frames)
  }
  levels.sort((a, b) => a - b)
  const [soft, loud] = [0.1, 0.95].map((share) => levels.at(Math.floor(share * (levels.length - 1))) ?? 0)
  return loud > 1e-14 ? 10 * Math.log10(loud / Math.max(soft, 1e-14)) : null
}
