import { useEffect, useRef } from 'react'
import { ChartPainter } from './chartPainter'
import { CLOSE, GRID, runsOff, type Props } from './chartOption'

/** A line chart in the product's own drawing: hairlines, units at the axes, each curve named at the curve. */
export default function Chart({ curves, x, y, label, height = 132, margins, zones = [], marks = [], band }: Props) {
  const wanted = JSON.stringify(margins)
  const host = useRef<HTMLDivElement>(null)
  const moving = useRef<SVGSVGElement>(null)
  const painter = useRef<ChartPainter | null>(null)
  useEffect(() => {
    if (!host.current || !moving.current) return
    const made = new ChartPainter(host.current, moving.current)
    painter.current = made
    return () => made.dispose()
  }, [])
  useEffect(() => {
    painter.current?.show({ curves, x, y, margins: wanted ? (JSON.parse(wanted) as Props['margins']) : undefined, band })
  }, [curves, x, y, wanted, band])
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
      <svg ref={moving} data-moving="" aria-hidden="true" className="pointer-events-none absolute hidden overflow-hidden" />
    </div>
  )
}

const atEdge = (share: number): boolean => share > 1 - CLOSE / 2
