/**
 * Half-band filters as two allpass paths: elliptic, near-linear cost, a few samples of delay.
 * Source: Valenzuela & Constantinides, IEE Proceedings 130-G, 1983 (design formulas).
 * @param count number of allpass coefficients
 * @param transition width of the transition band over the higher sample rate (0–0.5)
 */
export function halfBandCoefficients(count: number, transition: number): Float64Array {
  let k = Math.tan(((1 - transition * 2) * Math.PI) / 4)
  k *= k
  const root = Math.pow(1 - k * k, 0.25)
  const e = (0.5 * (1 - root)) / (1 + root)
  const e4 = e * e * e * e
  const q = e * (1 + e4 * (2 + e4 * (15 + 150 * e4)))
  const order = count * 2 + 1
  const coefficients = new Float64Array(count)
  for (let c = 1; c <= count; c++) {
    let numerator = 0
    let denominator = 0.5
    for (let i = 0, sign = 1; i < 12; i++, sign = -sign) {
      numerator += sign * Math.pow(q, i * (i + 1)) * Math.sin(((2 * i + 1) * c * Math.PI) / order)
      if (i > 0) denominator += sign * Math.pow(q, i * i) * Math.cos((2 * i * c * Math.PI) / order)
    }
    const w = (numerator * Math.pow(q, 0.25)) / denominator
    const ww = w * w
    const x = Math.sqrt((1 - ww * k) * (1 - ww / k)) / (1 + ww)
    coefficients[c - 1] = (1 - x) / (1 + x)
  }
  return coefficients
}

/** Passband to 20 kHz at 48 kHz; the images of what a guitar holds are more than 100 dB down. */
export const FIRST_HALF_BAND = halfBandCoefficients(8, 0.08)
export const SECOND_HALF_BAND = halfBandCoefficients(4, 0.29)
/** The next octaves have room for wide transitions. */
export const THIRD_HALF_BAND = halfBandCoefficients(4, 0.38)
export const FOURTH_HALF_BAND = halfBandCoefficients(4, 0.43)
