/** A pick stroke on one string. Times in s. */
export interface Pluck {
  readonly at: number
  /** How long the string rings before it is stopped. */
  readonly length: number
  readonly hz: number
  /** 0–1: level and brightness of the stroke. */
  readonly strength: number
  /** 0 open string, 1 fully muted by the palm. */
  readonly mute: number
}

export interface StringOptions {
  readonly sampleRate: number
  /** Places along the string as shares of its length from the bridge. */
  readonly pickPosition: number
  readonly pickupPosition: number
}

/**
 * Adds one string's plucks to `out`: noise burst shaped by the stroke's strength, a comb for the place of the pick, a loop with
 * loss filter, fractional tuning and decay by mute, and a comb for the place of the pickup.
 * Source: Karplus & Strong, CMJ 1983; Jaffe & Smith, CMJ 1983 (extensions).
 */
export function pluckString(out: Float32Array, plucks: readonly Pluck[], options: StringOptions, random: () => number): void {
  const { sampleRate, pickPosition, pickupPosition } = options
  const size = 2048
  const mask = size - 1
  const loop = new Float64Array(size)
  for (const [index, pluck] of plucks.entries()) {
    const next = plucks[index + 1]
    const start = Math.round(pluck.at * sampleRate)
    const stop = Math.round((pluck.at + pluck.length) * sampleRate)
    const end = Math.min(out.length, next ? Math.round(next.at * sampleRate) : out.length)
    const period = sampleRate / pluck.hz
    const dark = 0.12 + 0.43 * pluck.mute
    // the loss filter delays by `dark` frames, the allpass by what is left over
    const whole = Math.floor(period - dark - 0.1)
    const fraction = period - dark - whole
    const tuning = (1 - fraction) / (1 + fraction)
    const ring = decayPerPeriod(pluck)
    const stopped = Math.pow(10, -3 / (0.06 * pluck.hz))
    const burst = excitation(whole, pluck, pickPosition, sampleRate, random)
    const tap = Math.max(1, Math.round(pickupPosition * period))
    let last = 0
    let allpassIn = 0
    let allpassOut = 0
    for (let n = start; n < end; n++) {
      const k = n - start
      const delayed = loop[(n - whole) & mask]
      const smooth = (1 - dark) * delayed + dark * last
      last = delayed
      const tuned = tuning * (smooth - allpassOut) + allpassIn
      allpassIn = smooth
      allpassOut = tuned
      const value = tuned * (n < stop ? ring : stopped) + (k < burst.length ? burst[k] : 0)
      loop[n & mask] = value + 1e-20
      out[n] += value - loop[(n - tap) & mask]
    }
  }
}

/** Loss a period so that the string falls 60 dB in 6 s open (less when high), 0.35 s muted. */
function decayPerPeriod(pluck: Pluck): number {
  const open = 6 * Math.pow(110 / pluck.hz, 0.4)
  const seconds = open * Math.pow(0.35 / open, pluck.mute)
  return Math.min(0.9999, Math.pow(10, -3 / (seconds * pluck.hz)))
}

function excitation(period: number, pluck: Pluck, pickPosition: number, sampleRate: number, random: () => number): Float64Array {
  const burst = new Float64Array(period)
  const corner = 900 + 7000 * pluck.strength * (1 - 0.75 * pluck.mute)
  const a = 1 - Math.exp((-2 * Math.PI * corner) / sampleRate)
  let state = 0
  let state2 = 0
  for (let n = 0; n < period; n++) {
    state += a * (random() * 2 - 1 - state)
    state2 += a * (state - state2)
    burst[n] = state2
  }
  const shift = Math.max(1, Math.round(pickPosition * period))
  const combed = burst.map((x, n) => x - burst[(n - shift + period) % period])
  const mean = combed.reduce((s, x) => s + x, 0) / period
  let power = 0
  for (let n = 0; n < period; n++) {
    combed[n] -= mean
    power += combed[n] ** 2
  }
  const scale = pluck.strength / Math.sqrt(power / period + 1e-12)
  return combed.map((x) => x * scale)
}
