import { useState } from 'react'
import { findSnapshot, type Preset } from '@fulgor/core/preset'
import { NetSectionChart, useNet } from '../../desk/NetChart'
import { Explain } from '../../ui/Explain'
import { Pick } from '../../ui/Pick'
import { Segments } from '../../ui/Segments'

/** The summed response of everything linear, before, between and behind what clips. */
export function NetCurve({ preset, snapshot }: { preset: Preset; snapshot: string }) {
  const [cabinet, setCabinet] = useState(true)
  const [way, setWay] = useState(0)
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
      {problem && <p role="alert">{problem}</p>}
      {path?.sections.map((section, i) => (
        <NetSectionChart
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
