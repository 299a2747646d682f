import { Suspense, useMemo, useState } from 'react'
import { NET_HZ, netAt, type NetPath, type NetSection } from '@fulgor/core/net'
import { findSnapshot, partName, stagesOf, type Preset } from '@fulgor/core/preset'
import { useWish } from '../../background/useWish'
import { renderers } from '../../threads/crews'
import { SAMPLE_RATE } from '../../threads/rate'
import type { Curve } from '../../ui/chartOption'
import { Explain } from '../../ui/Explain'
import { figure } from '../../ui/format'
import { HERTZ_AXIS } from '../../ui/hertzAxis'
import { LazyChart } from '../../ui/LazyChart'
import { NoteMark } from '../../ui/marks'
import { Segments } from '../../ui/Segments'

/** Octave points that are told. */
const POINTS = [63, 125, 250, 500, 1_000, 2_000, 4_000, 8_000]
const MARGINS = { left: 34, right: 8 }

/** The summed response of everything linear, before, between and behind what clips. */
export function NetCurve({ preset, snapshot }: { preset: Preset; snapshot: string }) {
  const [cabinet, setCabinet] = useState(true)
  const [way, setWay] = useState(0)
  const { answer, problem } = useWish(
    renderers,
    [preset, snapshot, cabinet],
    () => renderers.job('net', [preset, snapshot, cabinet, SAMPLE_RATE], { key: null, rank: 'lit' }),
    { afterMs: 120, hold: true },
  )
  const paths = answer ?? []
  const path = paths.at(way) ?? paths.at(0)
  return (
    <section
      aria-label="Net curve"
      className="min-h-0 min-w-0 overflow-y-auto border-r border-rule2 px-4 py-2 max-[700px]:border-r-0"
      data-net={path ? 'there' : 'pending'}
    >
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2 className="text-[16px] font-bold">
          Net curve <span className="text-label font-normal text-ink2">{findSnapshot(preset, snapshot)?.name}, dB</span>
          <Explain term="netCurve" className="ml-1" />
        </h2>
        {paths.length > 1 && (
          <Segments
            label="Which way"
            value={String(Math.min(way, paths.length - 1))}
            options={paths.map((p, i) => [String(i), p.name || `Way ${i + 1}`] as const)}
            onChange={(next) => setWay(Number(next))}
          />
        )}
        <label className="ml-auto flex items-center gap-1.5">
          <input type="checkbox" className="accent-ember" checked={cabinet} onChange={() => setCabinet(!cabinet)} />
          Cabinet in
        </label>
      </div>
      {problem && <p role="alert">{problem}</p>}
      {path?.sections.map((section, i) => (
        <Section
          key={`${i} ${section.behind}`}
          preset={preset}
          path={path}
          section={section}
          first={i === 0}
          last={i === path.sections.length - 1}
        />
      ))}
    </section>
  )
}

function Section({
  preset,
  path,
  section,
  first,
  last,
}: {
  preset: Preset
  path: NetPath
  section: NetSection
  first: boolean
  last: boolean
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
        points: NET_HZ.map((hz, k) => [hz, c.db[k]] as const),
      })),
      {
        label: contributors.length === 1 ? contributors[0].name : 'sum',
        tone: 'ink',
        width: 2.4,
        points: NET_HZ.map((hz, k) => [hz, sum[k]] as const),
      } satisfies Curve,
    ],
    [contributors, sum],
  )
  const zones = useMemo(() => fights.map(({ from, to, hz }) => ({ from, to, words: [hertz(hz)] })), [fights])
  const title = path.sections.length === 1 ? 'Whole' : first ? 'Before the clipping' : last ? 'After' : 'Between'
  const named = (id: string) => `row ${number.get(id) ?? ''} ${partName(preset, id)}`
  return (
    <section aria-label={title} className="border-b border-rule pb-1 last:border-0">
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
              label={`${title}: sum of ${contributors.map((c) => c.name).join(', ')}`}
            />
          </Suspense>
          <table className="w-full table-fixed text-right" aria-label={`${title}, dB at octave points`}>
            <thead className="sr-only">
              <tr>
                <td />
                {POINTS.map((hz) => (
                  <th key={hz} scope="col">
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
                {POINTS.map((hz) => (
                  <td key={hz} className="num text-label font-semibold" title={hertz(hz)} data-net-at={hz}>
                    {figure(netAt(sum, hz), 1, true)}
                  </td>
                ))}
              </tr>
              {last && (
                <tr aria-hidden="true">
                  <td className="text-left text-label text-ink3">Hz</td>
                  {POINTS.map((hz) => (
                    <td key={hz} className="num text-axis text-ink3">
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

const DASHES = [
  [1, 0],
  [5, 3],
  [1.5, 2.5],
  [8, 3, 1.5, 3],
]

const hertz = (hz: number): string => (hz >= 950 ? `${Number((hz / 1000).toPrecision(2))} kHz` : `${Math.round(hz)} Hz`)

function rangeOf({ contributors, sum }: NetSection) {
  const inside = NET_HZ.flatMap((hz, k) => (hz >= HERTZ_AXIS.min && hz <= 12_000 ? [sum[k], ...contributors.map((c) => c.db[k])] : []))
  const max = Math.max(6, Math.ceil(Math.max(...inside) / 6) * 6)
  return { min: Math.max(-24, Math.min(-6, Math.floor(Math.min(...inside) / 6) * 6)), max: Math.min(24, max), interval: 6, unit: 'dB' }
}
