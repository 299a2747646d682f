import { formatNumber, formatValue, modelOf, potMark, type NumberSpec } from '@fulgor/core/catalogue'
import { noteMs } from '@fulgor/core/stage'
import { useState } from 'react'
import { Link } from 'react-router'
import { findLane, type Preset, type StageNode } from '@fulgor/core/preset'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { figure } from '../../ui/format'
import { Explain } from '../../ui/Explain'
import { sheetRows } from './rows'
import { setToUnity, unityPlace } from '../../state/unity'
import type { UnityPlace } from '../../threads/levels'
import { Pick } from '../../ui/Pick'

/** Where a pedal's own level pot stands for unity. */
export function unityWords(spec: NumberSpec, unity: number | null): string | null {
  if (!spec.pot || unity === null) return null
  if (unity > spec.max) return 'Softer than its input even fully up.'
  const held = Math.max(spec.min, unity)
  return `As loud as its input at ${formatNumber({ ...spec, unit: 'knob' }, potMark(spec, held))} (${formatValue(spec, held)}), picked hard.`
}

/** Why a note value is not what is heard: it lies outside of what the stage can do at this tempo. */
export function shortened(spec: NumberSpec, value: number, note: string | undefined, tempo: number): string | null {
  if (note === undefined) return null
  const ms = noteMs(tempo, note)
  const wanted = spec.unit === 'hz' ? 1000 / ms : spec.unit === 's' ? ms / 1000 : ms
  return Math.abs(wanted - value) < 1e-6 ? null : `As far as it goes: the note would be ${formatValue(spec, wanted)}`
}

/** Whose measures stand before a lane's strip: the last node of the lane, or what comes into it. */
export function lastOf(preset: Preset, lane: string): string | null {
  const nodes = findLane(preset, lane)?.lane.nodes ?? []
  return nodes.at(-1)?.id ?? sheetRows(preset.chain).find((r) => r.id === lane)?.before ?? null
}

/** Brings a stage's level to where it is as loud on as off: at its own output, or at the preset's end. */
export function UnityButton({ preset, stage, on, lane }: { preset: Preset; stage: StageNode; on: boolean; lane: boolean }) {
  const dispatch = useAppDispatch()
  const [busy, setBusy] = useState(false)
  const [chosen, setChosen] = useState<UnityPlace | null>(null)
  const snapshot = useAppSelector((s) => s.editor.snapshot)
  if (lane || stage.model === 'output' || snapshot === null) return null
  const place = chosen ?? unityPlace(preset, snapshot, stage.id)
  const run = async () => {
    setBusy(true)
    await dispatch(setToUnity(stage.id, place))
    setBusy(false)
  }
  return (
    <p className="mt-1.5">
      <button
        type="button"
        className="act"
        disabled={busy || !on}
        onClick={() => void run()}
        title={`Sets its level so that ${modelOf(stage.model).name} is as loud on as off at this place, on the current riff`}
      >
        {busy ? 'Measuring …' : 'Set to unity'}
      </button>{' '}
      <Pick
        label="Unity at"
        value={place}
        options={[
          ['own', 'at its own output'],
          ['end', 'at the preset’s end'],
        ]}
        onChange={setChosen}
      />
      <Explain term="unity" />
    </p>
  )
}

/** Measured figures before and after the stage in the lit snapshot. */
export function InOut({ above, stage }: { above: string | null; stage: string }) {
  const entry = useAppSelector((s) => (s.editor.snapshot ? s.measures.snapshots[s.editor.snapshot] : undefined))
  const before = above ? entry?.stages[above] : undefined
  const after = entry?.stages[stage]
  const rows = [
    ['RMS, dBFS', before?.rmsDbfs, after?.rmsDbfs, 1],
    ['True peak, dBTP', before?.truePeakDbtp, after?.truePeakDbtp, 1],
    ['Crest, dB', before?.crestDb, after?.crestDb, 1],
    ['Brightness, Hz', before?.centroidHz, after?.centroidHz, 0],
  ] as const
  return (
    <table className="mt-2.5 w-full border-t border-rule2 text-[11.5px]">
      <thead>
        <tr className="text-label text-ink3">
          <th className="text-left font-normal">
            Measured <Explain term="crest" />
          </th>
          <th className="w-16 text-right font-normal">in</th>
          <th className="w-16 text-right font-normal">out</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(([label, a, b, places]) => (
          <tr key={label} className="border-t border-rule">
            <td className="py-0.5">{label}</td>
            <td className="num text-right">{above === null ? 'the riff' : before ? figure(a, places) : '…'}</td>
            <td className="num text-right" data-out={label}>
              {after ? figure(b, places) : '…'}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** To the place where a cabinet's microphones stand. */
export function BenchLink({ stage }: { stage: StageNode }) {
  const id = useAppSelector((s) => s.editor.id)
  return (
    <Link className="act mt-1 block w-fit" to={`/bench/${id}?stage=${stage.id}`}>
      Open the mic bench
    </Link>
  )
}
