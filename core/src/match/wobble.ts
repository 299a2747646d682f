import { Fft } from '@fulgor/core/signal'

const SIZE = 4_096
const HOP = 512
/** Hz between which partials are followed: above, a step of phase may be more than half a turn. */
const FROM_HZ = 150
const TO_HZ = 1_400

/** How the pitch of one side moves against the other. */
export interface Wobble {
  /** Root mean square, cents. */
  readonly cents: number
  /** Strongest movement at an even pace, Hz, and its share of all movement, 0–1. */
  readonly hz: number
  readonly even: number
}

/**
 * Relative pitch of two sides from the phase between them, frame after frame: one that is delayed by a moving time is sharp and flat in
 * turn (Δf/f = dτ/dt), two takes differ from note to note.
 * @returns null where too little sounds
 */
export function wobbleOf(left: Float32Array, right: Float32Array, sampleRate: number): Wobble | null {
  const fft = new Fft(SIZE)
  const window = Float64Array.from({ length: SIZE }, (_, n) => 0.5 - 0.5 * Math.cos((2 * Math.PI * n) / SIZE))
  const [low, high] = [Math.ceil((FROM_HZ * SIZE) / sampleRate), Math.floor((TO_HZ * SIZE) / sampleRate)]
  const [re, im] = [new Float64Array(SIZE), new Float64Array(SIZE)]
  let before: { re: Float64Array; im: Float64Array } | null = null
  const track: number[] = []
  const weights: number[] = []
  for (let at = 0; at + SIZE <= left.length; at += HOP) {
    for (let n = 0; n < SIZE; n++) {
      re[n] = left[at + n] * window[n]
      im[n] = right[at + n] * window[n]
    }
    fft.forward(re, im)
    const now = { re: new Float64Array(high + 1), im: new Float64Array(high + 1) }
    for (let k = low; k <= high; k++) {
      const m = SIZE - k
      const [lr, li, rr, ri] = [0.5 * (re[k] + re[m]), 0.5 * (im[k] - im[m]), 0.5 * (im[k] + im[m]), 0.5 * (re[m] - re[k])]
      now.re[k] = rr * lr + ri * li
      now.im[k] = ri * lr - rr * li
    }
    if (before) {
      // the step of phase over frequency, weighed by the power: a straight line through nothing, by least squares
      let [over, under, power] = [0, 0, 0]
      for (let k = low; k <= high; k++) {
        const [a, b] = [now.re[k] * before.re[k] + now.im[k] * before.im[k], now.im[k] * before.re[k] - now.re[k] * before.im[k]]
        const heavy = Math.sqrt(Math.hypot(a, b))
        const omega = (2 * Math.PI * k * sampleRate) / SIZE
        over += heavy * omega * Math.atan2(b, a)
        under += heavy * omega * omega
        power += heavy
      }
      track.push(under > 0 ? -over / under / (HOP / sampleRate) : 0)
      weights.push(power)
    }
    before = now
  }
  if (track.length < 90) return null
  const loudest = Math.max(...weights)
  if (loudest <= 0) return null
  const heavy = weights.map((w) => (w > 0.02 * loudest ? 1 : 0))
  const count = heavy.reduce<number>((sum, w) => sum + w, 0)
  if (count < 60) return null
  const middle = track.reduce((sum, v, n) => sum + heavy[n] * v, 0) / count
  // a jump at a stroke is no movement
  const limit = 0.03
  const moves = track.map((v, n) => heavy[n] * Math.max(-limit, Math.min(limit, v - middle)))
  const power = moves.reduce((sum, v) => sum + v * v, 0)
  const rate = sampleRate / HOP
  let best = { hz: 0, even: 0 }
  if (power > 0)
    for (let hz = 0.25; hz <= 8; hz *= 1.015) {
      let [a, b] = [0, 0]
      moves.forEach((v, n) => {
        a += v * Math.cos((2 * Math.PI * hz * n) / rate)
        b += v * Math.sin((2 * Math.PI * hz * n) / rate)
      })
      const even = (2 * (a * a + b * b)) / (power * count)
      if (even > best.even) best = { hz, even: Math.min(1, even) }
    }
  return { cents: (1_200 / Math.LN2) * Math.sqrt(power / count), ...best }
}
