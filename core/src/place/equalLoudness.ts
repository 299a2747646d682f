/**
 * Normal equal-loudness-level contours. Source: ISO 226:2003, Acoustics, table 1 and equation 1 (coefficients from memory, checked against
 * the published contour of 40 phon).
 */
const TABLE: readonly (readonly [hz: number, alpha: number, lu: number, tf: number])[] = [
  [20, 0.532, -31.6, 78.5],
  [25, 0.506, -27.2, 68.7],
  [31.5, 0.48, -23.0, 59.5],
  [40, 0.455, -19.1, 51.1],
  [50, 0.432, -15.9, 44.0],
  [63, 0.409, -13.0, 37.5],
  [80, 0.387, -10.3, 31.5],
  [100, 0.367, -8.1, 26.5],
  [125, 0.349, -6.2, 22.1],
  [160, 0.33, -4.5, 17.9],
  [200, 0.315, -3.1, 14.4],
  [250, 0.301, -2.0, 11.4],
  [315, 0.288, -1.1, 8.6],
  [400, 0.276, -0.4, 6.2],
  [500, 0.267, 0.0, 4.4],
  [630, 0.259, 0.3, 3.0],
  [800, 0.253, 0.5, 2.2],
  [1000, 0.25, 0.0, 2.4],
  [1250, 0.246, -2.7, 3.5],
  [1600, 0.244, -4.1, 1.7],
  [2000, 0.243, -1.0, -1.3],
  [2500, 0.243, 1.7, -4.2],
  [3150, 0.243, 2.5, -6.0],
  [4000, 0.242, 1.2, -5.4],
  [5000, 0.242, -2.1, -1.5],
  [6300, 0.245, -7.1, 6.0],
  [8000, 0.254, -11.2, 12.6],
  [10000, 0.271, -10.7, 13.9],
  [12500, 0.301, -3.1, 12.3],
]

/** Frequencies of the contours, Hz. */
export const CONTOUR_HZ: readonly number[] = TABLE.map(([hz]) => hz)

/** Levels between which the standard holds, phon; above 90 its low end is an extrapolation. */
export const PHON_RANGE = [20, 100] as const

/** dB SPL of a tone of each {@link CONTOUR_HZ} that is as loud as 1 kHz at so many dB. */
export function contour(phon: number): number[] {
  return TABLE.map(([, alpha, lu, tf]) => {
    const a = 4.47e-3 * (Math.pow(10, 0.025 * phon) - 1.15) + Math.pow(0.4 * Math.pow(10, (tf + lu) / 10 - 9), alpha)
    return (10 / alpha) * Math.log10(a) - lu + 94
  })
}

/**
 * dB by which each of {@link CONTOUR_HZ} stands out more where it is heard at `there` than at `here`, both in dB at 1 kHz, when nothing is
 * changed but the level: what must be taken away there for the same balance.
 */
export function louderBalance(here: number, there: number): number[] {
  const [from, to] = [here, there].map((phon) => contour(Math.min(PHON_RANGE[1], Math.max(PHON_RANGE[0], phon))))
  const at1k = CONTOUR_HZ.indexOf(1000)
  return from.map((spl, k) => to[at1k] - from[at1k] - (to[k] - spl))
}
