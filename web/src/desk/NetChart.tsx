import { Suspense, useMemo } from 'react'
import { NET_HZ, netAt, type NetPath, type NetSection } from '@fulgor/core/net'
import { partName, stagesOf, type Preset } from '@fulgor/core/preset'
import { useWish } from '../background/useWish'
import { renderers } from '../threads/crews'
import { SAMPLE_RATE } from '../threads/rate'
import type { Curve, Props as ChartProps } from '../ui/chartOption'
import { figure } from '../ui/format'
import { HERTZ_AXIS } from '../ui/hertzAxis'
import { LazyChart } from '../ui/LazyChart'
import { NoteMark } from '../ui/marks'

/** Every third point is enough to draw. */
const drawn = (db: readonly number[]) => NET_HZ.flatMap((hz, k) => (k % 3 === 0 ? [[hz, db[k]] as const] : []))

/** Octave points that are told. */
const POINTS = [63, 125, 250, 500, 1_000, 2_000, 4_000, 8_000]
const MARGINS = { left: 34, right: 8 }

/** The net curve of a snapshot, way by way, as soon as it is there. */
export const useNet = (preset: Preset, snapshot: string, cabinet: boolean) =>
  useWish(
    renderers,
    [preset, snapshot, cabinet],
    () => renderers.job('net', [preset, snapshot, cabinet, SAMPLE_RATE], { key: null, rank: 'lit' }),
    { afterMs: 120, hold: true },
  )

/** Everything linear between two stages that clip: what each adds thin, the sum bold, where they undo each other hatched. */
export function NetSectionChart({
  preset,
  path,
  section,
  first,
  last,
  points = POINTS,
  marks,
}: {
  preset: Preset
  path: NetPath
  section: NetSection
  first: boolean
  last: boolean
  /** Frequencies that are told, Hz. */
  points?: readonly number[]
  /** Frequencies that something is found at. */
  marks?: ChartProps['marks']
}) {
  const { contributors, sum, fights, cascades } = section
  const number = useMemo(() => new Map(stagesOf(preset.chain).map(({ id }, i) => [id, i + 1])), [preset.chain])
  const curves = useMemo(
    () => [
      ...contributors.map((c, i): Curve => ({
        label: contributors.length > 1 ? c.name : '',
        tone: 'ink-2',
        width: 1,
        dash: DASHES[i % DASHES.length],
        points: drawn(c.db),
      })),
      {
        label: contributors.length === 1 ? contributors[0].name : 'sum',
        tone: 'ink',
        width: 2.4,
        points: drawn(sum),
      } satisfies Curve,
    ],
    [contributors, sum],
  )
  const zones = useMemo(() => fights.map(({ from, to, hz }) => ({ from, to, words: [hertz(hz)] })), [fights])
  const title = path.sections.length === 1 ? 'Whole' : first ? 'Before the clipping' : last ? 'After' : 'Between'
  const named = (id: string) => `row ${number.get(id) ?? ''} ${partName(preset, id)}`
  return (
    <section aria-label={title} className="@container border-b border-rule pb-1 last:border-0">
      <h3 className="flex flex-wrap items-baseline gap-x-2 pt-1 font-semibold">
        {title}
        <span className="ml-auto text-label font-normal text-ink2">
          {section.behind ? `behind ${partName(preset, section.behind)}` : 'from the guitar'}
          {section.before ? `, into ${partName(preset, section.before)}` : ', to the output'}
        </span>
      </h3>
      {contributors.length === 0 ? (
        <p className="py-1 text-[12px] text-ink3">Nothing here changes the spectrum.</p>
      ) : (
        <>
          <Suspense fallback={<div style={{ height: 132 }} />}>
            <LazyChart
              curves={curves}
              x={HERTZ_AXIS}
              y={rangeOf(section)}
              height={contributors.length > 2 ? 168 : 132}
              margins={MARGINS}
              zones={zones}
              marks={marks}
              label={`${title}: sum of ${contributors.map((c) => c.name).join(', ')}`}
            />
          </Suspense>
          <table className="w-full table-fixed text-right" aria-label={`${title}, dB at octave points`}>
            <thead className="sr-only">
              <tr>
                <td />
                {points.map((hz, i) => (
                  <th key={hz} scope="col" className={roomFor(i, points)}>
                    {hertz(hz)}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              <tr>
                <th scope="row" className="w-9 text-left text-label font-bold">
                  net
                </th>
                {points.map((hz, i) => (
                  <td key={hz} className={`num text-label font-semibold ${roomFor(i, points)}`} title={hertz(hz)} data-net-at={hz}>
                    {figure(netAt(sum, hz), 1, true)}
                  </td>
                ))}
              </tr>
              {last && (
                <tr aria-hidden="true">
                  <td className="text-left text-label text-ink3">Hz</td>
                  {points.map((hz, i) => (
                    <td key={hz} className={`num text-axis text-ink3 ${roomFor(i, points)}`}>
                      {hertz(hz).replace(' Hz', '')}
                    </td>
                  ))}
                </tr>
              )}
            </tbody>
          </table>
          {fights.map((f) => (
            <p key={`${f.up} ${f.down} ${f.hz}`} className="text-[12px]" data-fight="">
              <NoteMark /> <b>They undo each other at {hertz(f.hz)}:</b> {named(f.up)} {figure(f.upDb, 1, true)}, {named(f.down)}{' '}
              {figure(f.downDb, 1, true)}: <span className="num">{figure(f.upDb + f.downDb, 1, true)} dB</span> is left.
            </p>
          ))}
          {cascades.map((c) => (
            <p key={c.hz} className="text-[12px]" data-cascade={c.hz}>
              <NoteMark />{' '}
              <b>
                {c.stages.length} cuts at {hertz(c.hz)}: <span className="num">{figure(c.db)} dB</span> there.
              </b>{' '}
              {c.stages.map(named).join(', ')}.
            </p>
          ))}
        </>
      )}
    </section>
  )
}

/** Where there is no room for all points, every second one is told. */
const roomFor = (i: number, points: readonly number[]): string => (points.length > 5 && i % 2 === 0 ? '@max-[350px]:hidden' : '')

const DASHES = [
  [1, 0],
  [5, 3],
  [1.5, 2.5],
  [8, 3, 1.5, 3],
]

export const hertz = (hz: number): string => (hz >= 950 ? `${Number((hz / 1000).toPrecision(2))} kHz` : `${Math.round(hz)} Hz`)

function rangeOf({ contributors, sum }: NetSection) {
  const inside = NET_HZ.flatMap((hz, k) => (hz >= HERTZ_AXIS.min && hz <= 12_000 ? [sum[k], ...contributors.map((c) => c.db[k])] : []))
  const max = Math.max(6, Math.ceil(Math.max(...inside) / 6) * 6)
  return { min: Math.max(-24, Math.min(-6, Math.floor(Math.min(...inside) / 6) * 6)), max: Math.min(24, max), interval: 6, unit: 'dB' }
}
