import { Suspense, useMemo } from 'react'
import type { BenchChannel, MicBench } from '@fulgor/core/cabinet'
import type { BenchPicture } from '../../threads/cabinet.worker'
import type { Curve } from '../../ui/chartOption'
import { figure } from '../../ui/format'
import { LazyChart } from '../../ui/LazyChart'
import { channelName } from './bench'
import { channelTone, DASHES } from './ChannelMark'

interface Props {
  bench: MicBench
  picture: BenchPicture
  selected: string
  /** A candidate's curve, drawn to compare. */
  candidate: { readonly name: string; readonly db: readonly number[] } | null
  height: number
}

const X = {
  log: true,
  min: 50,
  max: 14_000,
  ticks: [100, 200, 500, 1_000, 2_000, 5_000, 10_000],
  format: (v: number) => (v >= 1000 ? `${v / 1000}k` : String(v)),
  unit: 'Hz',
}

export const kilo = (hz: number): string => (hz >= 1000 ? `${figure(hz / 1000)} kHz` : `${figure(hz, 0)} Hz`)

/** Each channel thin, the blend bold, cancelled stretches hatched. */
export function ResponseChart({ bench, picture, selected, candidate, height }: Props) {
  const { curves, y, zones, marks } = useMemo(() => {
    const several = picture.channels.length > 1
    const points = (db: readonly number[]) => picture.hz.map((hz, i) => [hz, db[i]] as const)
    const curvesOf: Curve[] = picture.channels.flatMap((drawn, i) => {
      const channel = bench.channels.find((c) => c.id === drawn.id)
      if (!drawn.db || !channel || !several) return []
      return [
        {
          label: channel.muted ? '' : `${i + 1} ${channelName(channel)}`.slice(0, 26),
          points: points(drawn.db),
          tone: channelTone(drawn.id === selected, i === 0),
          dash: channel.muted ? [1, 4] : (DASHES[i] ?? []),
          width: 1.2,
          nameAt: [0.12, 0.4, 0.26, 0.66, 0.2, 0.46, 0.33, 0.72][i],
        },
      ]
    })
    if (picture.sum)
      curvesOf.push({ label: several ? 'blend' : 'response', points: points(picture.sum), tone: 'ink', width: 2.4, nameAt: 0.52 })
    if (candidate && picture.sum) {
      // laid over the blend at equal loudness: both at their mean
      const mean = (db: readonly number[]) => db.slice(24, 150).reduce((a, b) => a + b, 0) / 126
      const shift = mean(picture.sum) - mean(candidate.db)
      curvesOf.push({
        label: candidate.name.slice(0, 30),
        points: points(candidate.db.map((d) => d + shift)),
        tone: 'ember',
        dash: [1.5, 2.5],
        width: 2.4,
        nameAt: 0.62,
      })
    }
    const loudest = Math.max(...curvesOf.flatMap((c) => c.points.map(([, db]) => db)), -60)
    const max = Math.ceil((loudest + 2) / 6) * 6
    const deep = [...picture.now.zones].sort((a, b) => a.depthDb - b.depthDb).slice(0, 3)
    return {
      curves: curvesOf,
      y: { min: max - 42, max, interval: 6, unit: 'dB' },
      zones: picture.now.zones.map((z) => ({
        from: z.fromHz,
        to: z.toHz,
        words: deep.includes(z) ? ['cancels', `${figure(z.depthDb, 0)} dB at ${kilo(z.hz)}`] : [],
      })),
      marks: cutMarks(bench.channels.find((c) => c.id === selected)),
    }
  }, [bench, picture, selected, candidate])
  return (
    <Suspense fallback={<div style={{ height }} />}>
      <LazyChart
        curves={curves}
        x={X}
        y={y}
        zones={zones}
        marks={marks}
        height={height}
        label={`Responses of ${picture.channels.length} channels and their blend, dB over Hz`}
      />
    </Suspense>
  )
}

function cutMarks(channel: BenchChannel | undefined): { x: number; words: string; side: 'left' | 'right' }[] {
  if (!channel) return []
  return [
    ...(channel.lowSlope === 'off' ? [] : [{ x: channel.lowCut, words: `−3 dB at ${kilo(channel.lowCut)}`, side: 'right' as const }]),
    ...(channel.highSlope === 'off' ? [] : [{ x: channel.highCut, words: `−3 dB at ${kilo(channel.highCut)}`, side: 'left' as const }]),
  ]
}
