import type { Curve } from './description'

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
