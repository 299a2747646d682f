import { LineChart } from 'echarts/charts'
import { GridComponent, MarkLineComponent } from 'echarts/components'
import * as echarts from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { useEffect, useRef } from 'react'
import { labelPlaces } from './labelPlaces'

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
      chart.current?.setOption(
        optionOf(curves, x, y, wanted ? (JSON.parse(wanted) as Props['margins']) : undefined, {
          width: chart.current.getWidth(),
          height: chart.current.getHeight(),
        }),
        { notMerge: true },
      )
    draw()
    addEventListener('fulgor-theme', draw)
    // names are placed by what the width leaves
    const observer = new ResizeObserver(draw)
    if (host.current) observer.observe(host.current)
    return () => {
      removeEventListener('fulgor-theme', draw)
      observer.disconnect()
    }
  }, [curves, x, y, wanted])
  const share = (value: number) => {
    const place = (v: number) => (x.log ? Math.log10(v) : v)
    return Math.min(1, Math.max(0, (place(value) - place(x.min)) / (place(x.max) - place(x.min))))
  }
  const levels = zones.reduce<number[]>(
    (all, zone, i) => [...all, i > 0 && share(zone.from) - share(zones[i - 1].to) < CLOSE ? 1 - all[i - 1] : 0],
    [],
  )
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
        {zones.map(({ from, to, words }, i) => (
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
              <div
                className={`narrow absolute z-10 ${atEdge(share(to)) ? 'right-0' : 'left-1/2 -translate-x-1/2'} bg-paper/80 px-0.5 text-center text-axis leading-[13px] font-semibold whitespace-nowrap`}
                // words of zones that lie close stand one above the other
                style={{ bottom: levels[i] * 28 }}
              >
                {words.map((word) => (
                  <div key={word}>{word}</div>
                ))}
              </div>
            )}
          </div>
        ))}
        {runsOff(curves, x, y).map(({ x: at, above, words }) => (
          <svg
            key={words}
            width="9"
            height="6"
            viewBox="0 0 9 6"
            className="absolute"
            style={{ left: `calc(${share(at) * 100}% - 4px)`, [above ? 'top' : 'bottom']: 0 }}
            data-runs-off={words}
          >
            <title>{words}</title>
            <path d={above ? 'M0 6L4.5 0L9 6Z' : 'M0 0L4.5 6L9 0Z'} fill="var(--ink-2)" />
          </svg>
        ))}
        {marks.map(({ x: at, words, side }) => (
          <div key={words} className="absolute inset-y-0 border-l border-dotted border-ink2" style={{ left: `${share(at) * 100}%` }}>
            <span
              className={`narrow absolute top-0 z-10 bg-paper/80 text-axis whitespace-nowrap text-ink2 ${side === 'right' ? 'left-1' : 'right-1'}`}
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

/** Share of the width within which words of two zones would touch, and behind which they would run over the edge. */
const CLOSE = 0.16
const atEdge = (share: number): boolean => share > 1 - CLOSE / 2

/** Where curves leave the drawing: an arrow says so, with how far they go. */
function runsOff(curves: Props['curves'], x: Props['x'], y: Props['y']): { x: number; above: boolean; words: string }[] {
  return curves.flatMap(({ label, points }) =>
    [true, false].flatMap((above) => {
      const out = points.filter(([px, py]) => px >= x.min && px <= x.max && (above ? py > y.max : py < y.min))
      if (out.length === 0) return []
      const far = out.reduce((most, point) => (above ? Math.max(most, point[1]) : Math.min(most, point[1])), out[0][1])
      const middle = out[Math.floor(out.length / 2)][0]
      const end = Number.isFinite(far) && far > -120 ? ` to ${far.toFixed(0).replace('-', '\u2212')} ${y.unit}` : ''
      return [{ x: middle, above, words: `${label || 'The curve'} goes on ${above ? 'above' : 'below'} the drawing${end}` }]
    }),
  )
}

/** px between the edges of the drawing and its axes. */
const GRID = { left: 34, right: 8, rightScale: 38, top: 8, bottom: 18 }

function optionOf(curves: Props['curves'], x: Props['x'], y: Props['y'], margins: Props['margins'], size: Size): echarts.EChartsCoreOption {
  const axis = { fontFamily: token('--font-num'), fontSize: 10.5, color: token('--ink-3') }
  const place = (value: number) => (x.log ? Math.log10(value) : value)
  const width = place(x.max) - place(x.min)
  const plot = {
    width: size.width - (margins?.left ?? GRID.left) - (margins?.right ?? (y.right ? GRID.rightScale : GRID.right)),
    height: size.height - GRID.top - GRID.bottom,
  }
  const names = labelPlaces(
    curves.map((curve) => ({
      points: curve.points.map(
        ([px, py]) => [((place(px) - place(x.min)) / width) * plot.width, ((y.max - py) / (y.max - y.min)) * plot.height] as const,
      ),
      width: textWidth(curve),
      wanted: labelPoint(curve, place, place(x.min) + width * 0.16, place(x.max) - width * 0.2, y),
    })),
    plot,
  )
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
            // at the end of the axis half of a centred label would be cut off
            ...(place(value) > place(x.max) - width * 0.04 ? { label: { align: 'right' } } : {}),
          })),
        },
      },
      ...curves.map((curve, c) => {
        const named = names[c]
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
            if (i !== named?.index) return { value }
            return {
              value,
              symbol: 'circle',
              symbolSize: 0.1,
              label: {
                show: true,
                position: named.side,
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

interface Size {
  readonly width: number
  readonly height: number
}

/** px of a curve's name, near enough: 11 px type is some 5.6 px a letter. */
const textWidth = ({ label, tone }: Curve): number => label.length * (tone === 'ember' ? 6 : 5.6)

/** Where a curve would carry its name: at its highest point inside the window, away from the edges. */
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
