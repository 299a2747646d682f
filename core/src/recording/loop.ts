import { LEAST_PART_S, type Part, type Recording } from './description'

/** s of what is looped. */
export const loopSeconds = ({ part, seconds }: Pick<Recording, 'part' | 'seconds'>): number => (part ? part.to - part.from : seconds)

/** Tempo at which so many bars fill the loop, quarter notes a minute. */
export const tempoOfBars = (bars: number, beats: number, seconds: number): number => (60 * bars * beats) / seconds

/** Bars that fill the loop at a tempo. */
export const barsAt = (tempo: number, beats: number, seconds: number): number => (tempo * seconds) / (60 * beats)

/**
 * A stretch that ends on a beat after its start: what a dragged end snaps to.
 * @param tempo of the recording; null leaves the stretch as it is
 */
export function onBeats(part: Part, tempo: number | null, seconds: number): Part {
  if (tempo === null) return part
  const beat = 60 / tempo
  const most = Math.floor((seconds - part.from) / beat + 1e-6)
  const beats = Math.min(most, Math.max(1, Math.round((part.to - part.from) / beat)))
  return beats < 1 ? part : { from: part.from, to: Math.min(seconds, part.from + beats * beat) }
}

/** A stretch within a file, its ends in order and the least apart. */
export function within({ from, to }: Part, seconds: number): Part {
  const [a, b] = [Math.min(from, to), Math.max(from, to)]
  const start = Math.max(0, Math.min(a, seconds - LEAST_PART_S))
  return { from: start, to: Math.min(seconds, Math.max(b, start + LEAST_PART_S)) }
}

/** s that the ends of a loop are mixed over. */
const SEAM_S = 0.004

/**
 * What is looped of a file's samples; its end fades into what stands before its start, so that the seam does not click.
 * @param part null: all of it, untouched
 */
export function looped(samples: Float32Array, part: Part | null, sampleRate: number): Float32Array {
  if (!part) return samples
  const from = Math.min(samples.length, Math.round(part.from * sampleRate))
  const to = Math.min(samples.length, Math.round(part.to * sampleRate))
  const out = samples.slice(from, Math.max(from, to))
  const seam = Math.min(from, Math.round(SEAM_S * sampleRate), out.length >> 1)
  for (let i = 0; i < seam; i++) {
    const share = (i + 1) / (seam + 1)
    const at = out.length - seam + i
    out[at] = out[at] * (1 - share) + samples[from - seam + i] * share
  }
  return out
}
