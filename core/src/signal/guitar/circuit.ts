import { rootsOf, type Complex } from '../base/roots'

/** What sounds behind the strings, as a voltage source with these in series and across it. */
export interface Coil {
  /** Ohm. */
  readonly resistance: number
  /** Henry. */
  readonly inductance: number
  /** Farad. */
  readonly capacitance: number
}

export type Taper = 'linear' | 'audio'

/** What stands between coil and amp: pots in ohm, capacitors in farad. */
export interface Wiring {
  readonly volume: { readonly ohm: number; readonly taper: Taper }
  /** Capacitor from the input of the volume pot to its wiper; null without one. A resistor beside it or behind it, 0 for none. */
  readonly bleed: { readonly farad: number; readonly ohm: number; readonly way: 'beside' | 'behind' } | null
  /** In front of the volume pot, as is usual; null without one. */
  readonly tone: { readonly ohm: number; readonly farad: number; readonly taper: Taper } | null
  readonly cableFarad: number
  readonly inputOhm: number
}

/** What an end of a pot's track has at least, ohm: a wiper is never quite there. */
const LEAST_OHM = 1

/** An audio taper leaves a tenth in the middle (common practice, no source). */
const AUDIO_BASE = 81

/** Share of a pot's track below the wiper, at 0 to 10. */
export function potShare(taper: Taper, position: number): number {
  const p = Math.min(1, Math.max(0, position / 10))
  return taper === 'linear' ? p : (Math.pow(AUDIO_BASE, p) - 1) / (AUDIO_BASE - 1)
}

/** A transfer function in s: real coefficients, ascending, with s in rad per ms, which keeps the numbers near one another. */
export interface Transfer {
  readonly numerator: readonly number[]
  readonly denominator: readonly number[]
}

const RAD_PER_MS = 1_000

/** Product of two polynomials. */
export const times = (a: readonly number[], b: readonly number[]): number[] => {
  const out = new Array<number>(a.length + b.length - 1).fill(0)
  a.forEach((x, i) => b.forEach((y, k) => (out[i + k] += x * y)))
  return out
}
/** Sum of two polynomials. */
export const plus = (a: readonly number[], b: readonly number[]): number[] =>
  Array.from({ length: Math.max(a.length, b.length) }, (_, k) => (a.at(k) ?? 0) + (b.at(k) ?? 0))

/**
 * From the coil's source to the amp's input, both pots at 0 to 10. Nodes: behind the coil, with its own capacitance and the tone
 * control against ground; and the wiper of the volume pot, with cable and input. Source of the coil's circuit: Jungmann, Theoretical and
 * practical studies on the behaviour of electric guitar pickups, Helsinki 1994; Kirchhoff for the rest; checked against ngspice.
 */
export function circuitTransfer(coil: Coil, wiring: Wiring, volume: number, tone: number): Transfer {
  const { bleed } = wiring
  const s = (farad: number) => farad * RAD_PER_MS
  const share = potShare(wiring.volume.taper, volume)
  const above = 1 / ((1 - share) * wiring.volume.ohm + LEAST_OHM)
  const below = 1 / (share * wiring.volume.ohm + LEAST_OHM)
  const source = [coil.resistance, coil.inductance * RAD_PER_MS]
  const own = [0, s(coil.capacitance)]
  const [toneN, toneD] = wiring.tone
    ? [
        [0, s(wiring.tone.farad)],
        [1, s(wiring.tone.farad) * (potShare(wiring.tone.taper, tone) * wiring.tone.ohm + LEAST_OHM)],
      ]
    : [[0], [1]]
  const [acrossN, acrossD] =
    bleed === null
      ? [[above], [1]]
      : bleed.way === 'beside'
        ? [[above + (bleed.ohm > 0 ? 1 / bleed.ohm : 0), s(bleed.farad)], [1]]
        : [plus(times([above], [1, s(bleed.farad) * bleed.ohm]), [0, s(bleed.farad)]), [1, s(bleed.farad) * bleed.ohm]]
  const wiper = [below + 1 / wiring.inputOhm, s(wiring.cableFarad)]
  const sourceTone = times(source, toneD)
  const behindCoil = plus(plus(toneD, times(sourceTone, own)), times(toneN, source))
  return {
    numerator: times(acrossN, toneD),
    denominator: plus(times(behindCoil, plus(acrossN, times(wiper, acrossD))), times(times(acrossN, wiper), sourceTone)),
  }
}

const at = (ascending: readonly number[], w: number): Complex => {
  let [re, im] = [0, 0]
  for (let k = ascending.length - 1; k >= 0; k--) [re, im] = [ascending[k] - im * w, re * w]
  return [re, im]
}

/** Complex gain at a frequency. */
export function transferAt({ numerator, denominator }: Transfer, hz: number): Complex {
  const w = (2 * Math.PI * hz) / RAD_PER_MS
  const [a, b] = at(numerator, w)
  const [c, d] = at(denominator, w)
  const m = c * c + d * d
  return [(a * c + b * d) / m, (b * c - a * d) / m]
}

/** dB at a frequency. */
export function transferDb(transfer: Transfer, hz: number): number {
  const [re, im] = transferAt(transfer, hz)
  return 10 * Math.log10(re * re + im * im)
}

/** Poles in rad/s. */
export const polesOf = ({ denominator }: Transfer): Complex[] =>
  rootsOf(denominator).map(([re, im]) => [re * RAD_PER_MS, im * RAD_PER_MS] as const)
