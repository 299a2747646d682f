/** How a source's travel becomes a target's. */
export const CURVE_SHAPES = ['linear', 'exponential', 'logarithmic', 's', 'points'] as const
export type CurveShape = (typeof CURVE_SHAPES)[number]

export interface Curve {
  readonly shape: CurveShape
  /** Share of the travel at heel and toe in which nothing moves, 0–0.45. */
  readonly heel: number
  readonly toe: number
  /** With `points`: travel and value, 0–1 each, in the order of the travel; straight in between. */
  readonly points?: readonly (readonly [travel: number, value: number])[]
}

export const LINEAR: Curve = { shape: 'linear', heel: 0, toe: 0 }
export const MAX_DEAD = 0.45
export const MAX_POINTS = 16

/** Bend of the exponential curve and its mirror: the middle of the travel has then done 12 %, or 88 %, of the way. */
const BEND = 4

/**
 * Share of the way, 0–1, at a position, 0 heel to 1 toe, after its dead zones: straight x; exponential (eᵏˣ − 1)/(eᵏ − 1) and its
 * inverse ln(1 + x(eᵏ − 1))/k with k = 4; S as 3x² − 2x³; or straight lines between drawn points.
 */
export function curveAt({ shape, heel, toe, points = [] }: Curve, position: number): number {
  const x = Math.min(1, Math.max(0, (position - heel) / (1 - heel - toe)))
  switch (shape) {
    case 'linear':
      return x
    case 'exponential':
      return Math.expm1(BEND * x) / Math.expm1(BEND)
    case 'logarithmic':
      return Math.log1p(x * Math.expm1(BEND)) / BEND
    case 's':
      return x * x * (3 - 2 * x)
    case 'points':
      return throughPoints(points, x)
  }
}

function throughPoints(points: NonNullable<Curve['points']>, x: number): number {
  const after = points.findIndex(([travel]) => travel >= x)
  if (points.length === 0) return x
  if (after === 0) return points[0][1]
  if (after < 0) return points[points.length - 1][1]
  const [[x0, y0], [x1, y1]] = [points[after - 1], points[after]]
  return x1 === x0 ? y1 : y0 + ((x - x0) / (x1 - x0)) * (y1 - y0)
}
