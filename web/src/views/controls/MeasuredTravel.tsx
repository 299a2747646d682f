import { Suspense, useMemo, useState } from 'react'
import { inputDbAt, type Control, type Snapshot } from '@fulgor/core/preset'
import type { SweepPoint } from '../../threads/measures'
import { LazyChart } from '../../ui/LazyChart'
import { Segments } from '../../ui/Segments'
import { SWEEP_POINTS, type Sweep } from './useSweep'

/** px beside the drawings of the travel, so that they stand one under the other. */
export const MARGINS = { left: 76, right: 190 }
export const TRAVEL_AXIS = { min: 0, max: 100, ticks: [0, 20, 40, 60, 80, 100], format: String, unit: '%' }
const HEIGHT = 104

type Measure = keyof SweepPoint

/** What can be drawn: its unit, the step that its axis keeps to, and the line that it is held against. */
const MEASURES: Record<Measure, { name: string; unit: string; step: number; words: string | null }> = {
  lufs: { name: 'Loudness', unit: 'LUFS', step: 3, words: 'its target' },
  centroidHz: { name: 'Brightness', unit: 'Hz', step: 250, words: null },
  truePeakDbtp: { name: 'True peak', unit: 'dBTP', step: 3, words: 'full scale' },
}

/** A measure along the travel, at the points that were rendered. @param target LUFS of the snapshot */
export function MeasuredTravel({
  control,
  snapshot,
  sweep,
  target,
}: {
  control: Control
  snapshot: Snapshot
  sweep: Sweep
  target: number
}) {
  const [measure, setMeasure] = useState<Measure>('lufs')
  const { points } = sweep
  const { name, unit, step, words } = MEASURES[measure]
  const done = points.filter(Boolean).length
  const drawn = useMemo(() => {
    const found = points.flatMap((p, i) => {
      const value = p?.[measure]
      return value == null ? [] : [[(100 * i) / (SWEEP_POINTS - 1), value] as const]
    })
    const line = measure === 'lufs' ? target : measure === 'truePeakDbtp' ? 0 : null
    const values = [...found.map(([, v]) => v), ...(line === null ? [] : [line])]
    const middle = Math.round((Math.min(...values) + Math.max(...values)) / 2 / step) * step
    const reach = Math.max(2 * step, Math.ceil((Math.max(...values) - Math.min(...values)) / 2 / step) * step + step)
    const level =
      line === null
        ? []
        : [
            {
              label: '',
              tone: 'lane' as const,
              points: [
                [0, line],
                [100, line],
              ] as const,
            },
          ]
    return {
      curves: [...level, { label: '', tone: 'ember' as const, points: found }],
      y: values.length === 0 ? { min: 0, max: 1, interval: 1, unit } : { min: middle - reach, max: middle + reach, interval: reach, unit },
    }
  }, [points, measure, step, unit, target])
  return (
    <>
      <div className="mt-1 flex flex-wrap items-baseline gap-x-3 text-[12px]">
        <Segments
          label="What is measured along the travel"
          value={measure}
          options={(Object.keys(MEASURES) as Measure[]).map((key) => [key, MEASURES[key].name] as const)}
          onChange={setMeasure}
        />
        <span className="text-ink2">
          {done < SWEEP_POINTS ? `measuring, ${done} of ${SWEEP_POINTS} points` : `${SWEEP_POINTS} points, measured in ${snapshot.name}`}
          {words !== null && `; the teal line is ${words}`}
          {inputDbAt(control, 0) !== 0 && '; the riff is played softer toward the heel, as this source hears it'}
        </span>
      </div>
      <Suspense fallback={<div style={{ height: HEIGHT }} />}>
        <LazyChart
          curves={drawn.curves}
          x={TRAVEL_AXIS}
          y={drawn.y}
          height={HEIGHT}
          margins={MARGINS}
          label={`${name} along the travel of ${control.name}`}
        />
      </Suspense>
    </>
  )
}
