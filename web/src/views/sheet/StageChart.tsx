import { Suspense, useMemo, useState } from 'react'
import type { ChartKind, StageModel } from '@fulgor/core/catalogue'
import { handOf, tempoOf, type Hand, type Preset, type StageNode } from '@fulgor/core/preset'
import { SAMPLE_RATE } from '../../threads/rate'
import type { ChartData } from '../../threads/charts'
import { renderers } from '../../threads/crews'
import { useWish } from '../../background/useWish'
import { useAppSelector } from '../../state/store'
import type { Curve } from '../../ui/chartOption'
import { LazyChart } from '../../ui/LazyChart'
import { figure } from '../../ui/format'
import { Explain } from '../../ui/Explain'
import { Segments } from '../../ui/Segments'
import { NetSectionChart, useNet } from '../../desk/NetChart'
import { pickWords } from './picks'

type Kind = ChartKind | 'net'

const NAMES: Record<Kind, string> = {
  net: 'Net curve',
  response: 'Response',
  feel: 'Feel',
  gain: 'Level in and out',
  tail: 'What follows a note',
}

interface Props {
  stage: StageNode
  /** The base, drawn beside it when a snapshot is edited. */
  base: StageNode | null
  preset: Preset
  model: StageModel
}

/** What the stage does, measured on its running processor: response, level and distortion, level curve or tail. */
export function StageChart({ stage, base, preset, model }: Props) {
  const lit = useAppSelector((s) => s.editor.snapshot)
  const hand = handOf(preset, lit)
  const tempo = tempoOf(preset, lit)
  const kinds: readonly Kind[] = NETTED.has(model.family) ? [...model.charts, 'net'] : model.charts
  const [chosen, setKind] = useState<Kind>(model.charts[0])
  const kind = chosen === 'net' ? model.charts[0] : chosen
  const data = useChartData(kind, stage, tempo)
  const baseData = useChartData(kind, base, tempo)
  const differs = base !== null && JSON.stringify(base.params) !== JSON.stringify(stage.params)
  const curves = useMemo(() => curvesOf(data, differs ? baseData : null), [data, baseData, differs])
  const axes = useMemo(() => axesOf(kind, data), [kind, data])
  return (
    <div className="mt-1">
      <div className="flex items-center gap-2 text-[11.5px]">
        {kinds.length > 1 ? (
          <Segments label="Chart" value={chosen} options={kinds.map((c) => [c, NAMES[c]] as const)} onChange={setKind} />
        ) : (
          <span className="text-ink2">{NAMES[kind]}</span>
        )}
        <Explain term={chosen === 'net' ? 'netCurve' : chosen} className="ml-auto" />
      </div>
      {chosen === 'net' && <NetOfStage preset={preset} stage={stage.id} />}
      <div className={chosen === 'net' ? 'hidden' : 'h-[132px]'} data-chart={data ? kind : 'pending'}>
        <Suspense fallback={null}>
          {chosen !== 'net' && data?.kind === kind && (
            <LazyChart curves={curves} x={axes.x} y={axes.y} label={`${model.name}: ${NAMES[kind]}`} />
          )}
        </Suspense>
      </div>
      {data?.kind === 'feel' && chosen === 'feel' && <Edges data={data} hand={hand} />}
    </div>
  )
}

/** Families whose place in the sum is of use where they are edited. */
const NETTED = new Set(['eq', 'filter', 'amp', 'cabinet'])

/** What the narrow panel has room to tell, Hz. */
const TOLD = [63, 125, 500, 2_000, 8_000]

/** The sum that a stage is part of, in the lit snapshot. */
function NetOfStage({ preset, stage }: { preset: Preset; stage: string }) {
  const lit = useAppSelector((s) => s.editor.snapshot)
  const { answer } = useNet(preset, lit ?? preset.snapshots[0].id, true)
  const path = answer?.find((p) => p.sections.some((s) => s.contributors.some((c) => c.stage === stage)))
  // of what clips its larger part, behind the clip
  const section = path?.sections.findLast((s) => s.contributors.some((c) => c.stage === stage))
  if (!path || !section)
    return <p className="py-1 text-[12px] text-ink3">{answer ? 'Off here, or flat: it adds nothing to the sum.' : 'Measuring …'}</p>
  const at = path.sections.indexOf(section)
  return (
    <NetSectionChart preset={preset} path={path} section={section} first={at === 0} last={at === path.sections.length - 1} points={TOLD} />
  )
}

function useChartData(kind: ChartKind, stage: StageNode | null, tempo: number): ChartData | null {
  // the text says all that the chart depends on, whatever objects carry it
  const key = stage ? JSON.stringify({ kind, stage, tempo }) : null
  return useWish(
    renderers,
    [key],
    () => (stage ? renderers.job('chart', [kind, stage, tempo, SAMPLE_RATE], { key, rank: 'now', keep: 64 }) : null),
    { afterMs: 60, hold: true },
  ).answer
}

/** Where the tone breaks up, in level and in strokes of the chosen guitar. */
function Edges({ data, hand }: { data: Extract<ChartData, { kind: 'feel' }>; hand: Hand }) {
  return (
    <table className="w-full text-[11.5px]" aria-label="Edge of breakup">
      <thead>
        <tr className="text-label text-ink3">
          <th className="text-left font-normal">Breakup, THD</th>
          <th className="text-right font-normal">from input</th>
          <th className="text-right font-normal">{hand.profile.name}</th>
        </tr>
      </thead>
      <tbody>
        {data.edges.map(({ thd, inputDb }) => (
          <tr key={thd} className="border-t border-rule" data-edge={thd}>
            <td className="num py-0.5">{thd} %</td>
            <td className="num text-right">{inputDb === null ? 'never' : `${figure(inputDb, 0)} dBFS`}</td>
            <td className="text-right">{inputDb === null ? '–' : pickWords(inputDb, hand.pickup)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

type Points = Curve['points']
const pairs = (a: readonly number[], b: readonly number[]): Points => a.map((x, i) => [x, b[i]] as const)

/** THD in % on the level axis of the same drawing: 0.1 % at the bottom, 100 % at the top, logarithmic. */
const thdHeight = (percent: number): number => -60 + 20 * (Math.log10(Math.max(0.05, percent)) + 1)

function mainCurve(data: ChartData): Points {
  if (data.kind === 'response') return pairs(data.hz, data.db)
  if (data.kind === 'tail') return pairs(data.ms, data.db)
  return pairs(data.inputDb, data.outputDb)
}

function curvesOf(data: ChartData | null, base: ChartData | null): Curve[] {
  if (!data) return []
  const stepped = data.kind === 'tail'
  const name = data.kind === 'feel' ? 'level out' : ''
  const curves: Curve[] = [
    {
      label: base ? 'this snapshot' : name,
      points: mainCurve(data),
      tone: 'ember',
      stepped,
      ...(data.kind === 'feel' ? { nameAt: 0.78 } : {}),
    },
  ]
  if (base && base.kind === data.kind) curves.push({ label: 'base', points: mainCurve(base), tone: 'lane', dashed: true, stepped })
  if (data.kind === 'feel') curves.push({ label: 'THD', points: pairs(data.inputDb, data.thd.map(thdHeight)), tone: 'ink', nameAt: 0.42 })
  if (data.kind === 'gain')
    curves.push({
      label: 'unity',
      points: [
        [-84, -84],
        [0, 0],
      ],
      tone: 'ink',
      dashed: true,
    })
  return curves
}

function axesOf(kind: ChartKind, data: ChartData | null) {
  if (kind === 'feel') {
    return {
      x: { min: -72, max: 0, ticks: [-60, -30], format: (v: number) => String(v).replace('-', '\u2212'), unit: 'dBFS in' },
      y: { min: -60, max: 0, interval: 20, unit: 'dBFS', right: { format: (v: number) => `${Math.pow(10, (v + 60) / 20 - 1)}%` } },
    }
  }
  if (kind === 'gain') {
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
