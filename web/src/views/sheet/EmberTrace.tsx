import { Fragment, memo, useEffect, useState, type ReactNode } from 'react'
import { shallowEqual } from 'react-redux'
import { CEILING_DBTP, type StageMeasures } from '@fulgor/core/measure'
import type { SnapshotMeasures } from '../../state/measures'
import { useAppSelector, type RootState } from '../../state/store'
import { figure } from '../../ui/format'
import { WarningMark } from '../../ui/marks'
import type { SheetRow } from './rows'

/** Ends of the axis, dBFS. */
const FLOOR = -60
const TOP = 6
const ROW = 40
const LEFT = 48
const WIDTH = 114

/** dBFS to pixels on the trace's axis. */
const x = (db: number | null): number => LEFT + ((Math.min(TOP, Math.max(FLOOR, db ?? FLOOR)) - FLOOR) / (TOP - FLOOR)) * WIDTH

/** Brightness in Hz as a colour between the three of the tokens, logarithmic over what guitars do: 300 Hz dark, 1 kHz ember, 3 kHz pale. */
function colour(hz: number | null): string {
  const at = Math.log((hz ?? 300) / 300)
  const half = Math.log(1000 / 300)
  if (at <= half) return `color-mix(in oklab, var(--trace-mid) ${Math.round(Math.max(0, at / half) * 100)}%, var(--trace-dark))`
  return `color-mix(in oklab, var(--trace-bright) ${Math.round(Math.min(1, (at - half) / Math.log(3)) * 100)}%, var(--trace-mid))`
}

export const TraceScale = memo(function TraceScale() {
  return (
    <>
      <span className="sr-only">Level and brightness after each stage</span>
      <svg width="100%" height="54" aria-hidden="true" className="block overflow-hidden max-[700px]:hidden">
        <text x="10" y="15" className="fill-ink2 text-label">
          After each stage, dBFS
        </text>
        <text x="10" y="30" className="fill-ink2 text-axis">
          RMS to peak;
        </text>
        <linearGradient id="trace-legend">
          <stop offset="0" stopColor={colour(300)} />
          <stop offset=".5" stopColor={colour(1000)} />
          <stop offset="1" stopColor={colour(3000)} />
        </linearGradient>
        <text x="76" y="30" className="fill-ink2 text-axis">
          dark
        </text>
        <rect x="102" y="23" width="26" height="7" fill="url(#trace-legend)" stroke="var(--trace-edge)" strokeWidth=".6" />
        <text x="132" y="30" className="fill-ink2 text-axis">
          bright
        </text>
        {[-60, -40, -20, 0].map((db) => (
          <text key={db} x={`${(x(db) / 166) * 100}%`} y="48" textAnchor={db === 0 ? 'end' : 'middle'} className="num fill-ink3 text-axis">
            {figure(db, 0)}
          </text>
        ))}
      </svg>
    </>
  )
})

/** What holds the lines: while the figures are older than the preset it says so to all traces at once. */
export function TraceGrid({ children }: { children: ReactNode }) {
  const stale = useLasting(useAppSelector((s) => litMeasures(s)?.fresh === false))
  return (
    <div role="grid" aria-label="Stages and snapshots" className="group/sheet contents" data-stale={stale || undefined}>
      {children}
    </div>
  )
}

/** s of figures that are behind before they look so: under a finger that moves they are behind all the time. */
const BEHIND_S = 0.5

/** True once something has been so for {@link BEHIND_S}. */
function useLasting(so: boolean): boolean {
  const [lasts, setLasts] = useState(false)
  useEffect(() => {
    if (!so) return
    const timer = setTimeout(() => setLasts(true), BEHIND_S * 1000)
    return () => {
      clearTimeout(timer)
      setLasts(false)
    }
  }, [so])
  return lasts
}

const litMeasures = ({ editor, measures }: RootState): SnapshotMeasures | undefined =>
  editor.snapshot ? measures.snapshots[editor.snapshot] : undefined

const isHot = ({ truePeakDbtp }: StageMeasures): boolean => (truePeakDbtp ?? -Infinity) > CEILING_DBTP

interface Props {
  row: SheetRow
  name: string
}

/**
 * One row's piece of the ember trace: left edge RMS, right edge true peak, colour brightness, running from what comes before in the
 * signal to what comes behind, so that the rows join to one ribbon. What passes beside this row in other lanes is drawn as outlines.
 */
export function TraceCell({ row, name }: Props) {
  const about = [row.here, row.before, row.after, ...row.passing, ...row.merging]
  const found = useAppSelector((s) => about.map((id) => (id === null ? undefined : litMeasures(s)?.stages[id])), shallowEqual)
  const of = (id: string | null) => found[about.indexOf(id)]
  const here = of(row.here)
  const previous = of(row.before) ?? here
  const next = of(row.after) ?? here
  const hot = here !== undefined && isHot(here)
  const id = `trace-${row.id}`
  const text = here ? words(row, name, here) : `${name}: not measured yet`
  return (
    <div
      role="gridcell"
      className="group/trace sticky left-[calc(var(--gutter-w)+var(--stage-w))] z-10 -mb-px bg-paper group-data-stale/sheet:opacity-75"
      title={here ? text : undefined}
      data-trace={here?.truePeakDbtp?.toFixed(2)}
    >
      <span className="sr-only">{text}</span>
      <svg
        width="100%"
        height="100%"
        viewBox={`0 0 166 ${ROW}`}
        preserveAspectRatio="none"
        className="block overflow-hidden"
        aria-hidden="true"
      >
        {[-60, -40, -20, 0].map((db) => (
          <path key={db} d={`M${x(db)} 0V${ROW}`} stroke="var(--rule)" />
        ))}
        <path d={`M0 ${ROW - 0.5}H166`} stroke="var(--rule)" />
        <rect x={x(CEILING_DBTP)} width={x(TOP) - x(CEILING_DBTP)} height={ROW} fill="url(#fulgor-hatch)" />
        {row.passing.map((other) => {
          const beside = of(other)
          return beside && <path key={other} d={ribbon(beside, beside, beside)} fill={colour(beside.centroidHz)} {...PASSING} />
        })}
        {row.merging.map((other) => {
          const lane = of(other)
          return lane && here && <path key={other} d={ribbon(lane, here, here)} fill={colour(lane.centroidHz)} {...PASSING} />
        })}
        {here && previous && next && (
          <>
            <linearGradient id={id} gradientUnits="userSpaceOnUse" x1="0" x2="0" y1={-ROW / 2} y2={ROW * 1.5}>
              <stop offset="0" stopColor={colour(previous.centroidHz)} />
              <stop offset=".5" stopColor={colour(here.centroidHz)} />
              <stop offset="1" stopColor={colour(next.centroidHz)} />
            </linearGradient>
            <path d={ribbon(previous, here, next)} fill={`url(#${id})`} stroke="var(--trace-edge)" strokeWidth=".8" />
          </>
        )}
      </svg>
      <span
        aria-hidden="true"
        className={`num absolute top-0 left-0 flex h-full w-11 flex-col items-end justify-center text-label leading-[14px] max-[700px]:hidden ${hot ? 'font-semibold' : 'text-ink2'}`}
      >
        <span className="flex items-center gap-0.5">
          {hot && row.kind !== 'lane' && <WarningMark />}
          {row.kind === 'lane' ? '' : here ? figure(here.truePeakDbtp) : '…'}
        </span>
        {hot && row.kind !== 'lane' && <span className="font-body text-axis">too hot</span>}
      </span>
      {here && <Figures measures={here} />}
    </div>
  )
}

/** The row's figures in full, over its own piece of the trace, while the pointer or the focus is on it. */
function Figures({ measures }: { measures: StageMeasures }) {
  return (
    <dl
      aria-hidden="true"
      className="num absolute top-0 bottom-px left-0 hidden grid-cols-[44px_auto] content-center gap-x-1 bg-paper pr-1 text-axis leading-[12px] group-hover/trace:grid group-focus-within/row:grid max-[700px]:!hidden"
    >
      {[
        [figure(measures.truePeakDbtp), 'dBTP'],
        [figure(measures.rmsDbfs), 'RMS'],
        [figure(measures.centroidHz, 0), 'Hz'],
      ].map(([value, unit]) => (
        <Fragment key={unit}>
          <dd className="flex items-center justify-end gap-0.5 font-semibold">
            {unit === 'dBTP' && isHot(measures) && <WarningMark />}
            {value}
          </dd>
          <dt className="text-ink2">{unit}</dt>
        </Fragment>
      ))}
    </dl>
  )
}

/** Ribbons of other lanes: they run beside this row's own, or come into it. */
const PASSING = { stroke: 'var(--lane)', strokeWidth: 0.8, opacity: 0.8 }

function ribbon(previous: StageMeasures, here: StageMeasures, next: StageMeasures): string {
  const rms = [previous, here, next].map((m) => x(m.rmsDbfs))
  const peak = [previous, here, next].map((m) => Math.max(x(m.truePeakDbtp), x(m.rmsDbfs) + 1.5))
  const [top, middle, bottom] = [-ROW / 2, ROW / 2, ROW * 1.5]
  return [
    `M${rms[0]} ${top}C${rms[0]} 0 ${rms[1]} 0 ${rms[1]} ${middle}C${rms[1]} ${ROW} ${rms[2]} ${ROW} ${rms[2]} ${bottom}`,
    `H${peak[2]}C${peak[2]} ${ROW} ${peak[1]} ${ROW} ${peak[1]} ${middle}C${peak[1]} 0 ${peak[0]} 0 ${peak[0]} ${top}Z`,
  ].join('')
}

function words(row: SheetRow, name: string, m: StageMeasures): string {
  return `${row.kind === 'lane' ? 'Into' : 'After'} ${name}: RMS ${figure(m.rmsDbfs)} dBFS, true peak ${figure(m.truePeakDbtp)} dBTP, crest ${figure(m.crestDb)} dB, brightness ${figure(m.centroidHz, 0)} Hz${isHot(m) ? '; too hot' : ''}`
}
