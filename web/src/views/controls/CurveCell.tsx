import { useState } from 'react'
import { quantity } from '@fulgor/core/catalogue'
import { CURVE_SHAPES, curveAt, MAX_DEAD, type Curve } from '@fulgor/core/preset'
import { Chevron } from '../../ui/marks'
import { Pick } from '../../ui/Pick'
import { NumberField } from '../../ui/NumberField'
import { TextField } from '../../ui/TextField'
import { DrawnCurve } from './DrawnCurve'
import { CURVE_NAMES, curveWords } from './words'

/** Travel of a macro. */
export const POSITION_SPEC = quantity('percent', 'Position', [0, 100])

/** A curve as a small drawing; its shape and dead zones are chosen beside it, its points drawn into it. */
export function CurveCell({ name, curve, onChange }: { name: string; curve: Curve; onChange: (curve: Curve) => void }) {
  const [open, setOpen] = useState(false)
  const line = Array.from({ length: 41 }, (_, i) => `${i},${20 - 19 * curveAt(curve, i / 40)}`).join(' ')
  const dead = (label: string, key: 'heel' | 'toe') => (
    <label className="flex items-baseline gap-1 text-ink2">
      {label}
      <NumberField
        spec={quantity('percent', `${label} of ${name}`, [0, 100 * MAX_DEAD])}
        value={Math.round(curve[key] * 100)}
        className="num w-[40px] border-b border-control bg-transparent text-right outline-none focus:border-ink"
        onChange={(share) => onChange({ ...curve, [key]: share / 100 })}
      />
    </label>
  )
  return (
    <div>
      <button
        type="button"
        className="flex items-baseline gap-2"
        aria-expanded={open}
        aria-label={`Curve of ${name}: ${curveWords(curve)}`}
        onClick={() => setOpen(!open)}
      >
        <svg width="42" height="22" viewBox="0 -1 41 22" aria-hidden="true">
          <path d="M0 20.5H41" stroke="var(--rule-2)" />
          <polyline points={line} fill="none" stroke="currentColor" strokeWidth="1.4" />
        </svg>
        {curveWords(curve)}
        <Chevron />
      </button>
      {open && (
        <div className="mt-1 flex flex-wrap items-baseline gap-x-3">
          <Pick
            label={`Shape of ${name}`}
            value={curve.shape}
            options={CURVE_SHAPES.map((s) => [s, CURVE_NAMES[s]] as const)}
            onChange={(shape) =>
              onChange(
                shape === 'points'
                  ? {
                      ...curve,
                      shape,
                      points: curve.points ?? [
                        [0, 0],
                        [0.5, 0.5],
                        [1, 1],
                      ],
                    }
                  : { ...curve, shape },
              )
            }
          />
          {dead('Dead at heel', 'heel')}
          {dead('at toe', 'toe')}
          {curve.shape === 'points' && (
            <DrawnCurve name={name} points={curve.points ?? []} onChange={(points) => onChange({ ...curve, points })} />
          )}
          {curve.shape === 'points' && (
            <label className="flex items-baseline gap-1 text-ink2">
              points
              <TextField
                label={`Points of ${name}`}
                value={(curve.points ?? []).map(([x, y]) => `${Math.round(x * 100)}:${Math.round(y * 100)}`).join(' ')}
                className="num w-[170px] border-b border-control bg-transparent outline-none focus:border-ink"
                onCommit={(text) => {
                  const points = text
                    .trim()
                    .split(/[\s;]+/)
                    .map((pair) => pair.split(':').map((v) => Number(v) / 100))
                  const fine =
                    points.length >= 2 &&
                    points.length <= 16 &&
                    points.every((p, i) => p.length === 2 && p.every((v) => v >= 0 && v <= 1) && (i === 0 || p[0] >= points[i - 1][0]))
                  if (!fine) return 'Points are pairs of travel and value in %, such as 0:0 50:80 100:100, in the order of the travel.'
                  onChange({ ...curve, points: points.map(([x, y]) => [x, y] as const) })
                  return null
                }}
              />
            </label>
          )}
        </div>
      )}
    </div>
  )
}
