import { Fft } from '@fulgor/core/signal'
import { share, type Told, topBetween, unsaid } from '@fulgor/core/measure'
import { wobbleOf } from './wobble'

/** What the two sides of a recording are to each other. */
export type SidesKind = 'mono' | 'panned' | 'delayed' | 'chorus' | 'two takes' | 'wide'

export interface FoundSides {
  readonly kind: SidesKind
  /** ms by which one side comes later, where one lag holds. */
  readonly lagMs: number | null
  /** Hz of the movement, where it moves at an even pace. */
  readonly rateHz: number | null
  /** Cents by which the sides' pitches move against each other, root mean square. */
  readonly wobbleCents: number | null
}

const SIZE = 8_192
const HOP = 2_048
/** s that a side may come later. */
const MOST_LAG_S = 0.035
/** Height of the peak of the whitened cross-correlation over all blocks from which on one lag holds: 1 is one sound, two takes lie near 0. */
const ONE_LAG = 0.3
/** Share of the movement that one pace holds, and its least, from which on it is a chorus. */
const EVEN = 0.45
const LEAST_CENTS = 2
/** s below which two sides are not later but other in tone. */
const SAME_S = 0.00015

/** Where the whitened cross-correlation of all blocks has its peak (GCC-PHAT; Knapp & Carter, IEEE Trans. ASSP 1976), and how high. */
function lagOf(left: Float32Array, right: Float32Array, sampleRate: number): { lag: number; height: number; blocks: number } {
  const fft = new Fft(SIZE)
  const window = Float64Array.from({ length: SIZE }, (_, n) => 0.5 - 0.5 * Math.cos((2 * Math.PI * n) / SIZE))
  const [low, high] = [Math.round((150 * SIZE) / sampleRate), Math.round((6_000 * SIZE) / sampleRate)]
  const [re, im, sumR, sumI] = [0, 1, 2, 3].map(() => new Float64Array(SIZE))
  const starts = Array.from({ length: Math.max(0, Math.floor((left.length - SIZE) / HOP) + 1) }, (_, f) => f * HOP)
  const levels = starts.map((at) => {
    let power = 0
    for (let n = at; n < at + SIZE; n++) power += left[n] ** 2 + right[n] ** 2
    return power
  })
  const loudest = Math.max(0, ...levels)
  const sounding = starts.filter((_, f) => levels[f] > 1e-3 * loudest && levels[f] > 1e-9)
  for (const at of sounding) {
    for (let n = 0; n < SIZE; n++) {
      re[n] = left[at + n] * window[n]
      im[n] = right[at + n] * window[n]
    }
    fft.forward(re, im)
    for (let k = low; k <= high; k++) {
      const m = SIZE - k
      const [lr, li, rr, ri] = [0.5 * (re[k] + re[m]), 0.5 * (im[k] - im[m]), 0.5 * (im[k] + im[m]), 0.5 * (re[m] - re[k])]
      const [a, b] = [rr * lr + ri * li, ri * lr - rr * li]
      const size = Math.hypot(a, b)
      if (size < 1e-12) continue
      sumR[k] += a / size
      sumI[k] += b / size
    }
  }
  for (let k = low; k <= high; k++) {
    sumR[SIZE - k] = sumR[k]
    sumI[SIZE - k] = -sumI[k]
  }
  fft.inverse(sumR, sumI)
  const at = (lag: number) => Math.abs(sumR[(lag + SIZE) % SIZE])
  const most = Math.round(MOST_LAG_S * sampleRate)
  let lag = 0
  for (let k = -most; k <= most; k++) if (at(k) > at(lag)) lag = k
  const whole = (2 * (high - low + 1) * Math.max(1, sounding.length)) / SIZE
  return { lag: lag + topBetween(at(lag - 1), at(lag), at(lag + 1)), height: at(lag) / whole, blocks: sounding.length }
}

/** Whether two sides are one sound, one sound widened, or two takes. */
export function sidesOf(left: Float32Array, right: Float32Array, sampleRate: number): Told<FoundSides> {
  let [ll, rr, lr] = [0, 0, 0]
  for (let n = 0; n < left.length; n++) {
    ll += left[n] ** 2
    rr += right[n] ** 2
    lr += left[n] * right[n]
  }
  if (ll + rr < 1e-9) return unsaid('silence')
  const told = (kind: SidesKind, confidence: number, words: string, found: Partial<FoundSides> = {}): Told<FoundSides> => ({
    value: { kind, lagMs: null, rateHz: null, wobbleCents: null, ...found },
    confidence,
    words,
  })
  if (ll + rr - 2 * lr < 1e-4 * (ll + rr + 2 * lr)) return told('mono', 1, 'both sides are the same')
  if (ll < 1e-4 * rr || rr < 1e-4 * ll) return told('panned', 1, 'one side only')
  if (Math.abs(lr) > 0.985 * Math.sqrt(ll * rr)) return told('panned', 1, 'one sound, more to one side')
  const { lag, height, blocks } = lagOf(left, right, sampleRate)
  if (blocks < 12) return unsaid('too short to compare the sides')
  if (height > ONE_LAG) {
    const sure = share(height, 0.2, 0.6)
    if (Math.abs(lag) < SAME_S * sampleRate) return told('wide', sure, 'one take whose sides differ in tone')
    const lagMs = (1_000 * Math.abs(lag)) / sampleRate
    return told('delayed', sure, `one take widened: the ${lag > 0 ? 'right' : 'left'} comes ${lagMs.toFixed(1)} ms later`, { lagMs })
  }
  const wobble = wobbleOf(left, right, sampleRate)
  if (!wobble) return unsaid('too short to compare the sides')
  const { cents, hz, even } = wobble
  if (even > EVEN && cents > LEAST_CENTS)
    return told('chorus', share(even, EVEN - 0.1, 0.8), `one take widened by a movement of ${hz.toFixed(2)} Hz`, {
      rateHz: hz,
      wobbleCents: cents,
    })
  const sure = share(ONE_LAG - height, 0, 0.15) * share(EVEN - even, 0, 0.2)
  if (sure < 0.2) return unsaid('the sides are neither one sound nor plainly two')
  return told('two takes', sure, `two takes: no lag holds, and their pitches move by ${cents.toFixed(1)} cents against each other`, {
    wobbleCents: cents,
  })
}
