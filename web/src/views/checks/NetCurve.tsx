import { Fragment, useState } from 'react'
import type { Finding } from '@fulgor/core/checks'
import { MOST_WAYS, type NetSection } from '@fulgor/core/net'
import { findSnapshot, type Preset } from '@fulgor/core/preset'
import { openFindings } from '../../state/findings'
import { useAppSelector } from '../../state/store'
import { NetSectionChart, useNet } from '../../desk/NetChart'
import { OneEqs } from './OneEqs'
import { Explain } from '../../ui/Explain'
import { Pick } from '../../ui/Pick'
import { Segments } from '../../ui/Segments'

/** The summed response of everything linear, before, between and behind what clips. */
export function NetCurve({ preset, snapshot }: { preset: Preset; snapshot: string }) {
  const [cabinet, setCabinet] = useState(true)
  const [way, setWay] = useState(0)
  const findings = useAppSelector(openFindings)
  const { answer, problem } = useNet(preset, snapshot, cabinet)
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
        {paths.length > 3 && (
          <Pick
            label="Which way"
            value={String(Math.min(way, paths.length - 1))}
            options={paths.map((p, i) => [String(i), p.name || `Way ${i + 1}`] as const)}
            onChange={(next) => setWay(Number(next))}
          />
        )}
        {paths.length > 1 && paths.length <= 3 && (
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
      {paths.length >= MOST_WAYS && (
        <p className="text-[12px] text-ink2">
          This chain has {MOST_WAYS} ways and more; the first {MOST_WAYS} are here.
        </p>
      )}
      {answer?.length === 0 && <p className="py-1 text-ink2">Every lane is muted: nothing gets through.</p>}
      {problem && <p role="alert">{problem}</p>}
      {path?.sections.map((section, i) => (
        <Fragment key={section.behind ?? ''}>
          <NetSectionChart
            preset={preset}
            path={path}
            section={section}
            first={i === 0}
            last={i === path.sections.length - 1}
            marks={marksOf(findings, snapshot, section, i === path.sections.length - 1)}
          />
          <OneEqs preset={preset} snapshot={snapshot} section={section} />
        </Fragment>
      ))}
    </section>
  )
}

/** Numbers of what is found at a frequency of this section. */
const marksOf = (findings: readonly Finding[], snapshot: string, { before, contributors }: NetSection, last: boolean) =>
  findings.flatMap(({ hz, where, snapshots }, i) => {
    const here = where.length === 0 ? last : where.some((id) => id === before || contributors.some((c) => c.stage === id))
    if (hz === undefined || !here || (snapshots && !snapshots.includes(snapshot))) return []
    return [{ x: hz, words: String(i + 1), side: 'right' as const }]
  })
