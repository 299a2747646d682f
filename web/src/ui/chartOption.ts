import { labelPlaces, type LabelPlace } from './labelPlaces'
import * as echarts from 'echarts/core'

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

export interface Props {
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
  /** A stretch of values around a curve, behind all else. */
  band?: readonly (readonly [x: number, low: number, high: number])[]
  /** Places on the x axis that are dotted, with a word at the top. */
  marks?: readonly { readonly x: number; readonly words: string; readonly side: 'left' | 'right' }[]
}

export const token = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(name).trim()

export interface Size {
  readonly width: number
  readonly height: number
}

/** px of a curve's name, near enough: 11 px type is some 5.6 px a letter. */
export const textWidth = ({ label, tone }: Curve): number => label.length * (tone === 'ember' ? 6 : 5.6)

/** Share of the width within which words of two zones would touch, and behind which they would run over the edge. */
export const CLOSE = 0.16

/** Where curves leave the drawing: an arrow says so, with how far they go. */
export function runsOff(curves: Props['curves'], x: Props['x'], y: Props['y']): { x: number; above: boolean; words: string }[] {
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
export const GRID = { left: 34, right: 8, rightScale: 38, top: 8, bottom: 18 }

/** Where the curves are drawn, px within the whole. */
export interface Plot {
  readonly left: number
  readonly top: number
  readonly width: number
  readonly height: number
}

export function plotOf(y: Props['y'], margins: Props['margins'], size: Size): Plot {
  const left = margins?.left ?? GRID.left
  return {
    left,
    top: GRID.top,
    width: size.width - left - (margins?.right ?? (y.right ? GRID.rightScale : GRID.right)),
    height: size.height - GRID.top - GRID.bottom,
  }
}

const placing = (x: Props['x']) => (value: number) => (x.log ? Math.log10(value) : value)

/** The curves in px of the plot, y down, and where each carries its name. */
function laidOut(curves: Props['curves'], x: Props['x'], y: Props['y'], plot: Plot) {
  const place = placing(x)
  const width = place(x.max) - place(x.min)
  const points = curves.map((curve) =>
    curve.points.map(
      ([px, py]) => [((place(px) - place(x.min)) / width) * plot.width, ((y.max - py) / (y.max - y.min)) * plot.height] as const,
    ),
  )
  const names = labelPlaces(
    curves.map((curve, c) => ({
      points: points[c],
      width: textWidth(curve),
      wanted: labelPoint(curve, place, place(x.min) + width * 0.16, place(x.max) - width * 0.2, y),
    })),
    plot,
  )
  return { points, names }
}

const lineOf = ({ tone, width, dash, dashed }: Curve) => ({
  tone: `--${tone}`,
  width: width ?? (tone === 'ember' ? 2 : 1.2),
  dash: dash ? [...dash] : dashed ? [4, 3] : null,
})

/** A curve while it moves: too quick for a chart to be drawn anew each time. */
export interface Stroke {
  /** An SVG path in px of the plot. */
  readonly path: string
  readonly line: ReturnType<typeof lineOf>
  readonly name: {
    readonly x: number
    readonly y: number
    readonly side: LabelPlace['side']
    readonly text: string
    readonly bold: boolean
  } | null
}

const px = (value: number): string => value.toFixed(1)

/** What {@link optionOf} would have drawn of the curves alone; a step runs on to the middle between two points. */
export function strokesOf(curves: Props['curves'], x: Props['x'], y: Props['y'], plot: Plot): Stroke[] {
  const { points, names } = laidOut(curves, x, y, plot)
  return curves.map((curve, c) => {
    const line = points[c]
      .filter((point) => point.every(Number.isFinite))
      .map(([at, high], i, all) => {
        if (i === 0) return `M${px(at)} ${px(high)}`
        const middle = px((all[i - 1][0] + at) / 2)
        return curve.stepped ? `H${middle}V${px(high)}H${px(at)}` : `L${px(at)} ${px(high)}`
      })
    const name = names[c]
    const [nameX, nameY] = name ? points[c][name.index] : [0, 0]
    return {
      path: line.join(''),
      line: lineOf(curve),
      name: name && {
        x: nameX,
        y: nameY,
        side: name.side,
        text: curve.label,
        bold: curve.tone === 'ember',
      },
    }
  })
}

export function optionOf(
  curves: Props['curves'],
  x: Props['x'],
  y: Props['y'],
  margins: Props['margins'],
  size: Size,
  band: Props['band'] = [],
): echarts.EChartsCoreOption {
  const axis = { fontFamily: token('--font-num'), fontSize: 10.5, color: token('--ink-3') }
  const place = placing(x)
  const width = place(x.max) - place(x.min)
  const { names } = laidOut(curves, x, y, plotOf(y, margins, size))
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
      ...bandSeries(band, place),
      ...curves.map((curve) => {
        const { tone, width: thick, dash } = lineOf(curve)
        return {
          type: 'line',
          symbol: 'none',
          step: curve.stepped ? 'middle' : undefined,
          clip: true,
          silent: true,
          z: curve.width || curve.tone === 'ember' ? 4 : 3,
          lineStyle: {
            color: token(tone),
            width: thick,
            type: dash ?? 'solid',
          },
          data: curve.points.map(([px, py]) => [place(px), py]),
        }
      }),
      // above all curves: none strikes a name through
      {
        type: 'line',
        silent: true,
        z: 5,
        lineStyle: { width: 0 },
        symbol: 'circle',
        symbolSize: 0.1,
        showSymbol: true,
        data: curves.flatMap((curve, c) => {
          const named = names[c]
          if (!named) return []
          const [px, py] = curve.points[named.index]
          const label = {
            show: true,
            position: named.side,
            formatter: curve.label,
            fontFamily: token('--font-ui'),
            fontSize: 11,
            fontWeight: curve.tone === 'ember' ? 600 : 400,
            color: token(lineOf(curve).tone),
            textBorderColor: token('--paper'),
            textBorderWidth: 3,
          }
          return [{ value: [place(px), py], label }]
        }),
      },
    ],
  }
}

/** Two lines on top of each other: the lower one is not seen, and the upper one fills what lies between. */
const bandSeries = (band: NonNullable<Props['band']>, place: (value: number) => number): object[] =>
  band.length === 0
    ? []
    : [0, 1].map((upper) => ({
        type: 'line',
        symbol: 'none',
        silent: true,
        stack: 'band',
        stackStrategy: 'all',
        z: 1,
        lineStyle: { opacity: 0 },
        ...(upper ? { areaStyle: { color: token('--ember'), opacity: 0.16 } } : {}),
        data: band.map(([x, low, high]) => [place(x), upper ? high - low : low]),
      }))

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
