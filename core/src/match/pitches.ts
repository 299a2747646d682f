import { pitchOf } from '@fulgor/core/measure'

/** Samples of a look at half the rate, and s between looks. */
const LOOK = 1_024
const EVERY_S = 0.02
/** s that are looked at. */
const MOST_S = 12
/** Of the loudest sample: softer looks are rests. */
const SOFT = 0.1

/** The pitch of a sound, look after look. */
export interface Pitches {
  /** Mono at {@link Pitches.sampleRate}: pitches need no more than half the rate. */
  readonly x: Float32Array
  readonly sampleRate: number
  /** s between looks. */
  readonly everyS: number
  /** Looks in their order; null: a rest. `hz` is null where no period is clear. */
  readonly looks: readonly ({ readonly at: number; readonly hz: number | null; readonly aperiodicity: number } | null)[]
}

/** @param whole mono */
export function pitchesOf(whole: Float32Array, wholeRate: number): Pitches {
  const x = Float32Array.from(
    { length: Math.min(whole.length, MOST_S * wholeRate) >> 1 },
    (_, n) => 0.5 * (whole[2 * n] + whole[2 * n + 1]),
  )
  const sampleRate = wholeRate / 2
  const step = Math.round(EVERY_S * sampleRate)
  const end = x.length - LOOK
  let loudest = 0
  for (let n = 0; n < end; n += 32) loudest = Math.max(loudest, Math.abs(x[n]))
  const looks: Pitches['looks'][number][] = []
  for (let at = 0; at < end; at += step) {
    const part = x.subarray(at, at + LOOK)
    let peak = 0
    for (const v of part) peak = Math.max(peak, Math.abs(v))
    if (peak < SOFT * loudest) {
      looks.push(null)
      continue
    }
    const pitch = pitchOf(part, sampleRate)
    looks.push({ at, hz: pitch?.hz ?? null, aperiodicity: pitch?.aperiodicity ?? 1 })
  }
  return { x, sampleRate, everyS: EVERY_S, looks }
}
