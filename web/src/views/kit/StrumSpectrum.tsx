import { Suspense, useMemo } from 'react'
import { THIRD_OCTAVES } from '@fulgor/core/measure'
import { HERTZ_AXIS } from '../../ui/hertzAxis'
import { LazyChart } from '../../ui/LazyChart'

/** dB under the loudest band that are drawn. */
const DEPTH = 48

/** Third octaves of a normal strum as it was measured, against its loudest band. */
export function StrumSpectrum({ bands, name }: { bands: readonly (number | null)[]; name: string }) {
  const curves = useMemo(() => {
    const loudest = Math.max(...bands.map((db) => db ?? -200))
    const points = bands.flatMap((db, k) => (db === null ? [] : [[THIRD_OCTAVES[k], Math.max(-DEPTH, db - loudest)] as const]))
    return [{ label: '', points, tone: 'ember' as const, stepped: true }]
  }, [bands])
  return (
    <div className="mt-1 border-t border-rule" data-spectrum="">
      <span className="text-[11.5px] text-ink2">Normal strum in third octaves, against its loudest</span>
      <div className="h-[96px]">
        <Suspense fallback={null}>
          <LazyChart
            curves={curves}
            x={HERTZ_AXIS}
            y={{ min: -DEPTH, max: 0, interval: 24, unit: 'dB' }}
            height={96}
            label={`Third octaves of a normal strum of ${name}`}
          />
        </Suspense>
      </div>
    </div>
  )
}
