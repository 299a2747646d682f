import { LineChart } from 'echarts/charts'
import { GridComponent, MarkLineComponent } from 'echarts/components'
import * as echarts from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { useEffect, useRef } from 'react'

echarts.use([LineChart, GridComponent, MarkLineComponent, SVGRenderer])

export interface Curve {
  readonly label: string
  readonly points: readonly (readonly [x: number, y: number])[]
  readonly tone: 'ember' | 'ink' | 'ink-2' | 'lane'
  readonly dashed?: boolean
  /** A dash of its own, px. */
  readonly dash?: readonly number[]
  /** px; by itself 2 for the result and 1.2 for what it is compared with. */
  readonly width?: number
  readonly stepped?: boolean
  /** Where along the axis it carries its name, 0–1; by itself at its highest point. */
  readonly nameAt?: number
}

interface Props {
  curves: readonly Curve[]
  x: { log?: boolean; min: number; max: number; ticks: readonly number[]; format: (value: number) => string; unit: string }
  /** `right`: a second reading of the same axis. */
  y: { min: number; max: number; interval: number; unit: string; right?: { format: (value: number) => string } }
  label: string
  height?: number
  /** px left and right of the drawing, instead of the usual. */
  margins?: { readonly left: number; readonly right: number }
  /** Stretches that are hatched, with a word at the foot. */
  zones?: readonly { readonly from: number; readonly to: number; readonly words: readonly string[] }[]
  /** Places on the x axis that are dotted, with a word at the top. */
  marks?: readonly { readonly x: number; readonly words: string; readonly side: 'left' | 'right' }[]
}

const token = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(name).trim()

/** A line chart in the product's own drawing: hairlines, units at the axes, each curve named at the curve. */
export default function Chart({ curves, x, y, label, height = 132, margins, zones = [], marks = [] }: Props) {
  const wanted = JSON.stringify(margins)
  const host = useRef<HTMLDivElement>(null)
  const chart = useRef<echarts.ECharts | null>(null)
  useEffect(() => {
    if (!host.current) return
    const made = echarts.init(host.current, null, { renderer: 'svg' })
    chart.current = made
    const observer = new ResizeObserver(() => made.resize())
    observer.observe(host.current)
    return () => {
      observer.disconnect()
      made.dispose()
    }
  }, [])
  useEffect(() => {
    const draw = () =>
      chart.current?.setOption(optionOf(curves, x, y, wanted ? (JSON.parse(wanted) as Props['margins']) : undefined), { notMerge: true })
    draw()
    addEventListener('fulgor-theme', draw)
    return () => removeEventListener('fulgor-theme', draw)
  }, [curves, x, y, wanted])
  const share = (value: number) => {
    const place = (v: number) => (x.log ? Math.log10(v) : v)
    return Math.min(1, Math.max(0, (place(value) - place(x.min)) / (place(x.max) - place(x.min))))
  }
  return (
    <div className="relative w-full" style={{ height }}>
      <div
        className="pointer-events-none absolute"
        style={{
          left: margins?.left ?? GRID.left,
          right: margins?.right ?? (y.right ? GRID.rightScale : GRID.right),
          top: GRID.top,
          bottom: GRID.bottom,
        }}
      >
        {zones.map(({ from, to, words }) => (
          <div
            key={`${from}`}
            data-zone={Math.round(from)}
            className="absolute inset-y-0"
            style={{ left: `${share(from) * 100}%`, width: `${(share(to) - share(from)) * 100}%` }}
          >
            <svg width="100%" height="100%" className="absolute inset-0 opacity-60" aria-hidden="true">
              <rect width="100%" height="100%" fill="url(#fulgor-hatch)" />
            </svg>
            {words.length > 0 && (
              <div className="narrow absolute bottom-0 left-1/2 -translate-x-1/2 bg-paper/80 px-0.5 text-center text-axis leading-[13px] font-semibold whitespace-nowrap">
                {words.map((word) => (
                  <div key={word}>{word}</div>
                ))}
              </div>
            )}
          </div>
        ))}
        {marks.map(({ x: at, words, side }) => (
          <div key={words} className="absolute inset-y-0 border-l border-dotted border-ink2" style={{ left: `${share(at) * 100}%` }}>
            <span
              className={`narrow absolute top-0 bg-paper/80 text-axis whitespace-nowrap text-ink2 ${side === 'right' ? 'left-1' : 'right-1'}`}
            >
              {words}
            </span>
          </div>
        ))}
      </div>
      <div ref={host} role="img" aria-label={label} className="absolute inset-0" />
    </div>
  )
}

/** px between the edges of the drawing and its axes. */
const GRID = { left: 34, right: 8, rightScale: 38, top: 8, bottom: 18 }

function optionOf(curves: Props['curves'], x: Props['x'], y: Props['y'], margins: Props['margins']): echarts.EChartsCoreOption {
  const axis = { fontFamily: token('--font-num'), fontSize: 10.5, color: token('--ink-3') }
  const place = (value: number) => (x.log ? Math.log10(value) : value)
  const width = place(x.max) - place(x.min)
  return {
    animation: false,
    grid: {
      left: margins?.left ?? GRID.left,
      right: margins?.right ?? (y.right ? GRID.rightScale : GRID.right),
      top: GRID.top,
      bottom: GRID.bottom,
    },
    xAxis: {
      type: 'value',
      min: place(x.min),
      max: place(x.max),
      axisLine: { show: false },
      axisTick: { show: false },
      splitLine: { show: false },
      axisLabel: { show: false },
    },
    yAxis: [
      {
        type: 'value',
        min: y.min,
        max: y.max,
        interval: y.interval,
        axisLine: { show: false },
        axisTick: { show: false },
        splitLine: { lineStyle: { color: token('--rule'), width: 1 } },
        axisLabel: {
          ...axis,
          show: y.unit !== '',
          formatter: (v: number) => (v === y.min ? y.unit : `${v > 0 && y.min < 0 && y.max > 0 ? '+' : ''}${v}`.replace('-', '\u2212')),
        },
      },
      ...(y.right
        ? [
            {
              type: 'value',
              position: 'right',
              min: y.min,
              max: y.max,
              interval: y.interval,
              axisLine: { show: false },
              axisTick: { show: false },
              splitLine: { show: false },
              axisLabel: { ...axis, formatter: y.right.format },
            },
          ]
        : []),
    ],
    series: [
      {
        type: 'line',
        data: [],
        silent: true,
        markLine: {
          symbol: 'none',
          silent: true,
          lineStyle: { color: token('--rule'), width: 1, type: 'solid' },
          label: { ...axis, position: 'start', distance: 4, formatter: ({ name }: { name: string }) => name },
          data: x.ticks.map((value, i) => ({
            name: x.format(value) + (i === x.ticks.length - 1 ? ` ${x.unit}` : ''),
            xAxis: place(value),
          })),
        },
      },
      ...curves.map((curve) => {
        const named = labelPoint(curve, place, place(x.min) + width * 0.16, place(x.max) - width * 0.2, y)
        return {
          type: 'line',
          symbol: 'none',
          step: curve.stepped ? 'middle' : undefined,
          clip: true,
          silent: true,
          z: curve.width || curve.tone === 'ember' ? 4 : 3,
          lineStyle: {
            color: token(`--${curve.tone}`),
            width: curve.width ?? (curve.tone === 'ember' ? 2 : 1.2),
            type: curve.dash ? [...curve.dash] : curve.dashed ? [4, 3] : 'solid',
          },
          data: curve.points.map(([px, py], i) => {
            const value = [place(px), py]
            if (i !== named) return { value }
            return {
              value,
              symbol: 'circle',
              symbolSize: 0.1,
              label: {
                show: true,
                position: py > (y.max + y.min) / 2 + (y.max - y.min) * 0.3 ? 'bottom' : 'top',
                formatter: curve.label,
                fontFamily: token('--font-ui'),
                fontSize: 11,
                fontWeight: curve.tone === 'ember' ? 600 : 400,
                color: token(`--${curve.tone}`),
                textBorderColor: token('--paper'),
                textBorderWidth: 3,
              },
            }
          }),
          showSymbol: true,
        }
      }),
    ],
  }
}

/** Where a curve carries its name: at its highest point inside the window, away from the edges. */
function labelPoint(curve: Curve, place: (x: number) => number, from: number, to: number, y: Props['y']): number {
  if (curve.label === '') return -1
  if (curve.nameAt !== undefined) return Math.round(curve.nameAt * (curve.points.length - 1))
  let best = -1
  let most = -Infinity
  curve.points.forEach(([px, py], i) => {
    const inside = place(px) >= from && place(px) <= to && py <= y.max && py >= y.min
    if (!inside) return
    const rank = curve.dashed ? -py : py
    if (rank > most) {
      most = rank
      best = i
    }
  })
  return best
}
