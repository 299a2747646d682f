import { lazy, Suspense, useEffect, useMemo, useState } from 'react'
import type { ChartKind, StageModel } from '@fulgor/core/catalogue'
import type { StageNode } from '@fulgor/core/preset'
import type { ChartData } from '../../audio/render.worker'
import { renderWorkers, SAMPLE_RATE } from '../../audio/workers'
import type { Curve } from '../../ui/Chart'
import { Segments } from '../../ui/Segments'

const Chart = lazy(() => import('../../ui/Chart'))

const NAMES: Record<ChartKind, string> = { response: 'Response', transfer: 'Level in and out', tail: 'What follows a note' }

interface Props {
  stage: StageNode
  /** The base, drawn beside it when a snapshot is edited. */
  base: StageNode | null
  tempo: number
  model: StageModel
}

/** What the stage does, measured on its running processor: response, level curve or tail. */
export function StageChart({ stage, base, tempo, model }: Props) {
  const [kind, setKind] = useState<ChartKind>(model.charts[0])
  const data = useChartData(kind, stage, tempo)
  const baseData = useChartData(kind, base, tempo)
  const differs = base !== null && JSON.stringify(base.params) !== JSON.stringify(stage.params)
  const curves = useMemo(() => curvesOf(data, differs ? baseData : null), [data, baseData, differs])
  const axes = useMemo(() => axesOf(kind, data), [kind, data])
  return (
    <div className="mt-1">
      {model.charts.length > 1 && (
        <div className="text-[11.5px]">
          <Segments label="Chart" value={kind} options={model.charts.map((c) => [c, NAMES[c]] as const)} onChange={setKind} />
        </div>
      )}
      <div className="h-[132px]" data-chart={data ? kind : 'pending'}>
        <Suspense fallback={null}>
          {data?.kind === kind && <Chart curves={curves} x={axes.x} y={axes.y} label={`${model.name}: ${NAMES[kind]}`} />}
        </Suspense>
      </div>
    </div>
  )
}

function useChartData(kind: ChartKind, stage: StageNode | null, tempo: number): ChartData | null {
  const [data, setData] = useState<ChartData | null>(null)
  // the text says all that the chart depends on, whatever objects carry it
  const request = stage ? JSON.stringify({ kind, stage, tempo }) : null
  useEffect(() => {
    if (request === null) {
      setData(null)
      return
    }
    const wanted = JSON.parse(request) as { kind: ChartKind; stage: StageNode; tempo: number }
    let current = true
    const timer = setTimeout(() => {
      void renderWorkers()[1]
        .chart(wanted.kind, wanted.stage, wanted.tempo, SAMPLE_RATE)
        .then((answer) => {
          if (current) setData(answer)
        })
    }, 60)
    return () => {
      current = false
      clearTimeout(timer)
    }
  }, [request])
  return data
}

function points(data: ChartData): Curve['points'] {
  if (data.kind === 'response') return data.hz.map((hz, i) => [hz, data.db[i]] as const)
  if (data.kind === 'transfer') return data.inputDb.map((db, i) => [db, data.outputDb[i]] as const)
  return data.ms.map((ms, i) => [ms, data.db[i]] as const)
}

function curvesOf(data: ChartData | null, base: ChartData | null): Curve[] {
  if (!data) return []
  const curves: Curve[] = [{ label: base ? 'this snapshot' : '', points: points(data), tone: 'ember', stepped: data.kind === 'tail' }]
  if (base && base.kind === data.kind)
    curves.push({ label: 'base', points: points(base), tone: 'lane', dashed: true, stepped: data.kind === 'tail' })
  if (data.kind === 'transfer') curves.push({ label: 'unity', points: [[-72, -72], [0, 0]], tone: 'ink', dashed: true }) // prettier-ignore
  return curves
}

function axesOf(kind: ChartKind, data: ChartData | null) {
  if (kind === 'transfer') {
    return {
      x: { min: -72, max: 0, ticks: [-60, -40, -20, 0], format: (v: number) => String(v).replace('-', '\u2212'), unit: 'dBFS' },
      y: { min: -80, max: 0, interval: 20, unit: 'dBFS' },
    }
  }
  if (kind === 'tail') {
    const last = data?.kind === 'tail' ? (data.ms.at(-1) ?? 1000) : 1000
    const step = last > 4000 ? 2000 : last > 1500 ? 1000 : 500
    const ticks = Array.from({ length: Math.floor(last / step) }, (_, i) => (i + 1) * step)
    return {
      x: { min: 0, max: last, ticks, format: (v: number) => String(v / 1000), unit: 's' },
      y: { min: -60, max: 0, interval: 20, unit: 'dB' },
    }
  }
  const db = data?.kind === 'response' ? data.db : []
  const high = Math.max(6, Math.ceil((Math.max(...db, 0) + 1) / 6) * 6)
  const loudest = Math.max(...db, -200)
  // a stage far from unity (an amp's gain) is shown in a window of 48 dB below its loudest point
  const [min, max] = Math.abs(loudest) > 14 ? [high - 48, high] : [-Math.max(18, Math.min(30, high * 2)), Math.max(12, high)]
  return {
    x: {
      log: true,
      min: 20,
      max: 20_000,
      ticks: [100, 1_000, 10_000],
      format: (v: number) => (v >= 1000 ? `${v / 1000}k` : String(v)),
      unit: 'Hz',
    },
    y: { min, max, interval: max - min > 40 ? 12 : 6, unit: 'dB' },
  }
}
