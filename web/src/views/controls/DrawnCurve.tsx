import { useRef, type KeyboardEvent, type PointerEvent } from 'react'
import { MAX_POINTS, type Curve } from '@fulgor/core/preset'

type Points = NonNullable<Curve['points']>

const WIDTH = 260
const HEIGHT = 120
const EDGE = 9
/** Share of the travel within which a pointer takes hold of a point that is there. */
const NEAR = 0.05

const held = (value: number, low = 0, high = 1): number => Math.min(high, Math.max(low, Math.round(value * 100) / 100))
const toX = (travel: number): number => EDGE + travel * (WIDTH - 2 * EDGE)
const toY = (value: number): number => HEIGHT - EDGE - value * (HEIGHT - 2 * EDGE)

/** Points of a curve, put down and dragged with the mouse or moved by keys; between its neighbours each. */
export function DrawnCurve({ name, points, onChange }: { name: string; points: Points; onChange: (points: Points) => void }) {
  const area = useRef<SVGSVGElement>(null)
  const dragged = useRef<number | null>(null)
  const moved = (index: number, travel: number, value: number): Points =>
    points.map((p, i) => (i === index ? [held(travel, points[i - 1]?.[0] ?? 0, points[i + 1]?.[0] ?? 1), held(value)] : p))
  const at = (event: PointerEvent): readonly [number, number] => {
    const box = area.current?.getBoundingClientRect()
    if (!box) return [0, 0]
    return [
      ((event.clientX - box.left) * (WIDTH / box.width) - EDGE) / (WIDTH - 2 * EDGE),
      1 - ((event.clientY - box.top) * (HEIGHT / box.height) - EDGE) / (HEIGHT - 2 * EDGE),
    ]
  }
  const down = (event: PointerEvent<SVGSVGElement>) => {
    if (event.button !== 0) return
    const [x, y] = at(event)
    event.currentTarget.setPointerCapture(event.pointerId)
    const distance = (i: number) => Math.hypot(points[i][0] - x, (points[i][1] - y) * (HEIGHT / WIDTH))
    const nearest = points.reduce((best, _, i) => (distance(i) < distance(best) ? i : best), 0)
    if (distance(nearest) <= NEAR || points.length >= MAX_POINTS) {
      dragged.current = nearest
      return
    }
    const index = points.findIndex(([travel]) => travel > x)
    const place = index < 0 ? points.length : index
    dragged.current = place
    onChange([...points.slice(0, place), [held(x), held(y)], ...points.slice(place)])
  }
  const move = (event: PointerEvent) => {
    const index = dragged.current
    if (index === null || index >= points.length || event.buttons === 0) return
    const [x, y] = at(event)
    onChange(moved(index, x, y))
  }
  const take = (index: number) => {
    if (points.length > 2) onChange(points.filter((_, i) => i !== index))
  }
  const onKeyDown = (event: KeyboardEvent, index: number) => {
    const step = event.shiftKey ? 0.1 : 0.01
    const [x, y] = points[index]
    const next = {
      ArrowLeft: () => onChange(moved(index, x - step, y)),
      ArrowRight: () => onChange(moved(index, x + step, y)),
      ArrowUp: () => onChange(moved(index, x, y + step)),
      ArrowDown: () => onChange(moved(index, x, y - step)),
      Delete: () => take(index),
      Backspace: () => take(index),
    }[event.key]
    if (!next) return
    event.preventDefault()
    event.stopPropagation()
    next()
  }
  return (
    <div className="basis-full">
      <svg
        ref={area}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        width={WIDTH}
        height={HEIGHT}
        role="group"
        aria-label={`Points of ${name}, drawn`}
        className="max-w-full cursor-crosshair touch-none border border-rule2"
        onPointerDown={down}
        onPointerMove={move}
        onPointerUp={() => (dragged.current = null)}
        onPointerCancel={() => (dragged.current = null)}
      >
        {[0, 0.25, 0.5, 0.75, 1].map((share) => (
          <path key={share} d={`M${toX(share)} ${EDGE}V${HEIGHT - EDGE}M${EDGE} ${toY(share)}H${WIDTH - EDGE}`} stroke="var(--rule)" />
        ))}
        <polyline
          points={[[0, points[0]?.[1] ?? 0] as const, ...points, [1, points.at(-1)?.[1] ?? 1] as const]
            .map(([x, y]) => `${toX(x)},${toY(y)}`)
            .join(' ')}
          fill="none"
          stroke="currentColor"
          strokeWidth="1.5"
        />
        {points.map(([x, y], i) => (
          <circle
            key={i}
            cx={toX(x)}
            cy={toY(y)}
            r="4.5"
            fill="var(--paper)"
            stroke="var(--ember)"
            strokeWidth="1.8"
            tabIndex={0}
            role="slider"
            aria-label={`Point ${i + 1} of ${name}`}
            aria-valuenow={Math.round(y * 100)}
            aria-valuetext={`${Math.round(y * 100)} % at ${Math.round(x * 100)} % of the travel`}
            onKeyDown={(event) => onKeyDown(event, i)}
            onDoubleClick={() => take(i)}
          />
        ))}
      </svg>
      <p className="text-[11px] text-ink3">
        Travel across, from heel to toe; the way from the heel’s value to the toe’s upwards. Click for a point, drag it; Delete or a double
        click takes it away.
      </p>
    </div>
  )
}
