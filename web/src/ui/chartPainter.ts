import { LineChart } from 'echarts/charts'
import { GridComponent, MarkLineComponent } from 'echarts/components'
import * as echarts from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { optionOf, plotOf, strokesOf, type Props, type Stroke } from './chartOption'

echarts.use([LineChart, GridComponent, MarkLineComponent, SVGRenderer])

/** What is drawn. */
export type Drawing = Pick<Props, 'curves' | 'x' | 'y' | 'margins' | 'band'>

/** Curves that have not changed for so long rest, ms: by then the figures of an edit stand, and nothing waits for the page any more. */
const REST_MS = 1_000

/**
 * Draws a chart into its place. Where nothing but its curves changes, they are drawn as plain SVG over the axes: the chart itself is drawn
 * once they rest.
 */
export class ChartPainter {
  private readonly chart: echarts.ECharts
  private readonly observer: ResizeObserver
  private drawing: Drawing | null = null
  /** All of the drawing that stands but where its curves run, as text. */
  private frame = ''
  private rests: ReturnType<typeof setTimeout> | undefined

  /** @param moving takes the curves while they move */
  constructor(
    private readonly host: HTMLElement,
    private readonly moving: SVGSVGElement,
  ) {
    this.chart = echarts.init(host, null, { renderer: 'svg' })
    // names are placed by what the width leaves
    this.observer = new ResizeObserver(() => {
      this.chart.resize()
      if (this.drawing && this.frame !== frameOf(this.drawing, this.size)) this.paint(this.drawing)
    })
    this.observer.observe(host)
    addEventListener('fulgor-theme', this.anew)
  }

  private get size() {
    return { width: this.chart.getWidth(), height: this.chart.getHeight() }
  }

  show(drawing: Drawing): void {
    this.drawing = drawing
    if (this.frame === frameOf(drawing, this.size)) this.move(drawing)
    else this.paint(drawing)
  }

  dispose(): void {
    clearTimeout(this.rests)
    this.observer.disconnect()
    removeEventListener('fulgor-theme', this.anew)
    this.chart.dispose()
  }

  private readonly anew = (): void => {
    this.frame = ''
    if (this.drawing) this.paint(this.drawing)
  }

  private readonly settle = (): void => {
    if (this.drawing) this.paint(this.drawing)
  }

  /** Where only the curves have moved, axes and grid stay. */
  private paint(drawing: Drawing): void {
    clearTimeout(this.rests)
    this.rests = undefined
    const { curves, x, y, margins, band } = drawing
    const option = optionOf(curves, x, y, margins, this.size, band)
    const frame = frameOf(drawing, this.size)
    if (frame === this.frame) this.chart.setOption({ series: (option.series as object[]).map((line, k) => (k === 0 ? {} : line)) })
    else this.chart.setOption(option, { notMerge: true })
    this.frame = frame
    this.moving.style.display = 'none'
    // the chart's own curves are seen again, see app.css
    delete this.host.dataset.drawnOver
  }

  private move({ curves, x, y, margins }: Drawing): void {
    const plot = plotOf(y, margins, this.size)
    const { style } = this.moving
    if (this.rests === undefined) {
      this.host.dataset.drawnOver = ''
      Object.assign(style, { display: 'block', left: `${plot.left}px`, top: `${plot.top}px` })
      this.moving.setAttribute('width', `${plot.width}`)
      this.moving.setAttribute('height', `${plot.height}`)
    }
    const strokes = strokesOf(curves, x, y, plot)
    // names above all curves
    this.moving.replaceChildren(...strokes.map(curveOf), ...strokes.flatMap(nameOf))
    clearTimeout(this.rests)
    this.rests = setTimeout(this.settle, REST_MS)
  }
}

const frameOf = ({ curves, x, y, margins, band }: Drawing, size: object): string =>
  JSON.stringify([
    curves.map(({ points, ...of }) => [of, points.length > 0]),
    [x, x.ticks.map(x.format)],
    [y, y.right && [y.min, y.max].map(y.right.format)],
    margins,
    size,
    // it is drawn by the chart alone
    band,
  ])

function element(name: string, attributes: Record<string, string | number>): SVGElement {
  const made = document.createElementNS('http://www.w3.org/2000/svg', name)
  for (const [key, value] of Object.entries(attributes)) made.setAttribute(key, `${value}`)
  return made
}

const curveOf = ({ path, line }: Stroke): SVGElement =>
  element('path', {
    d: path,
    fill: 'none',
    stroke: `var(${line.tone})`,
    'stroke-width': line.width,
    'stroke-linejoin': 'bevel',
    ...(line.dash ? { 'stroke-dasharray': line.dash.join(' ') } : {}),
  })

/** px between a curve and its name, as the chart itself leaves them. */
const NAME_GAP = 2

function nameOf({ line, name }: Stroke): SVGElement[] {
  if (!name) return []
  const text = element('text', {
    x: name.x,
    y: name.side === 'top' ? name.y - NAME_GAP : name.y + NAME_GAP,
    'text-anchor': 'middle',
    'dominant-baseline': name.side === 'top' ? 'text-after-edge' : 'text-before-edge',
    'font-family': 'var(--font-ui)',
    'font-size': 11,
    'font-weight': name.bold ? 600 : 400,
    fill: `var(${line.tone})`,
    stroke: 'var(--paper)',
    'stroke-width': 3,
    'paint-order': 'stroke',
  })
  text.textContent = name.text
  return [text]
}
