/** A curve in px of the drawing, y down, with the size of its name. */
export interface NamedCurve {
  readonly points: readonly (readonly [x: number, y: number])[]
  readonly width: number
  /** Index where the name should stand if nothing is in its way; -1: it has no name. */
  readonly wanted: number
}

export interface LabelPlace {
  readonly index: number
  readonly side: 'top' | 'bottom'
}

const HEIGHT = 12
/** px between a curve and its name. */
const GAP = 5
/** Points that are tried, evenly along a curve. */
const TRIED = 28

type Box = readonly [left: number, top: number, right: number, bottom: number]

const boxAt = ([x, y]: readonly [number, number], width: number, side: LabelPlace['side']): Box =>
  side === 'top' ? [x - width / 2, y - GAP - HEIGHT, x + width / 2, y - GAP] : [x - width / 2, y + GAP, x + width / 2, y + GAP + HEIGHT]

const overlap = (a: Box, b: Box): boolean => a[0] < b[2] && b[0] < a[2] && a[1] < b[3] && b[1] < a[3]

/** How many stretches of a curve run through a box. */
function crossings(points: NamedCurve['points'], [left, top, right, bottom]: Box): number {
  let count = 0
  for (let i = 1; i < points.length; i++) {
    const [[x0, y0], [x1, y1]] = [points[i - 1], points[i]]
    if (x1 < left || x0 > right) continue
    if (Math.max(y0, y1) >= top && Math.min(y0, y1) <= bottom) count++
  }
  return count
}

/**
 * Where each curve carries its name, so that no curve strikes through it and no two names lie on one another, as near to the wanted place
 * as that goes.
 * @param size of the drawing, px
 */
export function labelPlaces(
  curves: readonly NamedCurve[],
  size: { readonly width: number; readonly height: number },
): (LabelPlace | null)[] {
  const taken: Box[] = []
  return curves.map((curve) => {
    const { points, width, wanted } = curve
    if (wanted < 0 || points.length === 0) return null
    const [wantedX] = points[wanted]
    let best: (LabelPlace & { cost: number; box: Box }) | null = null
    const step = Math.max(1, Math.floor(points.length / TRIED))
    const tried = [wanted, ...points.keys()].filter((i, n) => n === 0 || i % step === 0)
    for (const index of tried)
      for (const side of ['top', 'bottom'] as const) {
        const box = boxAt(points[index], width, side)
        if (box[0] < 0 || box[2] > size.width || box[1] < 0 || box[3] > size.height) continue
        const struck = curves.reduce((n, other) => n + crossings(other.points, box), 0)
        const covered = taken.filter((other) => overlap(other, box)).length
        const cost = 1000 * (struck + covered * 4) + Math.abs(points[index][0] - wantedX) + (side === 'bottom' ? 1 : 0)
        if (!best || cost < best.cost) best = { index, side, cost, box }
      }
    if (!best) return { index: wanted, side: 'top' }
    taken.push(best.box)
    return { index: best.index, side: best.side }
  })
}
