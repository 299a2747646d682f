import { Suspense, useMemo } from 'react'
import { figure } from '../../ui/format'
import { HERTZ_AXIS } from '../../ui/hertzAxis'
import { LazyChart } from '../../ui/LazyChart'
import type { WholeOutput } from '../../state/measures'

const Y = { min: -18, max: 18, interval: 6, unit: 'dB' }

const less = (a: number | null, b: number | null): number | null => (a !== null && b !== null ? a - b : null)

interface Props {
  here: WholeOutput | null
  there: WholeOutput | null
  name: string
  /** The spectrum is compared as if both were equally loud. */
  matched?: boolean
}

/** Loudness, brightness and third octaves of one sound against another. */
export function SoundDifference({ here, there, name, matched = false }: Props) {
  const louder = here && there ? less(here.integratedLufs, there.integratedLufs) : null
  const curves = useMemo(() => {
    if (!here?.thirdOctave || !there?.thirdOctave) return []
    const beside = there.thirdOctave
    const off = matched ? (louder ?? 0) : 0
    const points = here.thirdOctave.flatMap((band, i) => {
      const db = less(band.db, beside[i]?.db ?? null)
      return db === null ? [] : [[band.hz, db - off] as const]
    })
    return [{ label: '', tone: 'ember' as const, stepped: true, points }]
  }, [here, there, matched, louder])
  if (!here || !there) return <p className="my-2 text-ink3">Measuring both …</p>
  return (
    <>
      <p className="mt-2" data-louder={louder?.toFixed(2)}>
        {name}: <b className="num">{figure(louder, 1, true)} LU</b>, brightness{' '}
        <b className="num">{figure(less(here.centroidHz, there.centroidHz), 0, true)} Hz</b>, crest{' '}
        <b className="num">{figure(less(here.crestDb, there.crestDb), 1, true)} dB</b>. Third octaves, dB
        {matched ? ', both equally loud' : ''}
        {here.thirdOctave && there.thirdOctave ? ':' : ': measuring …'}
      </p>
      <Suspense fallback={<div style={{ height: 132 }} />}>
        <LazyChart curves={curves} x={HERTZ_AXIS} y={Y} label={`Third-octave difference: ${name}`} />
      </Suspense>
    </>
  )
}
