import { Suspense, useMemo, useState } from 'react'
import { snapshotFields, type Preset } from '@fulgor/core/preset'
import { addSnapshot, edit } from '../../state/actions'
import { snapshotChosen } from '../../state/editor'
import { useAppDispatch, useAppSelector } from '../../state/store'
import type { Curve } from '../../ui/chartOption'
import { LazyChart } from '../../ui/LazyChart'
import { Explain } from '../../ui/Explain'
import { figure } from '../../ui/format'
import { TextField } from '../../ui/TextField'
import { DifferenceDialog } from './DifferenceDialog'
import { Grown } from './Grown'
import { LoudnessPlan } from './LoudnessPlan'
import { SnapshotTime } from './SnapshotTime'
import { Takes } from './Takes'
import { SwitchingDialog } from './SwitchingDialog'

const X = {
  log: true,
  min: 25,
  max: 20_000,
  ticks: [100, 1_000, 10_000],
  format: (v: number) => (v >= 1000 ? `${v / 1000}k` : String(v)),
  unit: 'Hz',
}
const Y = { min: -90, max: -10, interval: 20, unit: 'dBFS' }

/** The lit snapshot: name, spectrum and loudness, with the preset's tags and notes below. */
export function SnapshotPanel({ preset }: { preset: Preset }) {
  const dispatch = useAppDispatch()
  const lit = useAppSelector((s) => s.editor.snapshot)
  const entry = useAppSelector((s) => (lit ? s.measures.snapshots[lit] : undefined))
  const [switching, setSwitching] = useState(false)
  /** Snapshot that this one is put beside; '' for the nearest. */
  const [against, setAgainst] = useState<string | null>(null)
  const index = preset.snapshots.findIndex((s) => s.id === lit)
  const snapshot = preset.snapshots[index]
  const bands = entry?.bands
  const curves = useMemo<Curve[]>(
    () => (bands ? [{ label: '', tone: 'ember', stepped: true, points: bands.map((b) => [b.hz, b.db ?? -120] as const) }] : []),
    [bands],
  )
  if (!snapshot) return null
  const output = entry?.output
  const rows = [
    ['Loudness, LUFS', output?.integratedLufs, 1],
    ['Loudness range, LU', output?.rangeLu, 1],
    ['Loudest 400 ms, LUFS', output?.momentaryMaxLufs, 1],
    ['True peak, dBTP', output?.truePeakDbtp, 1],
    ['Crest, dB', output?.crestDb, 1],
    ['Brightness, Hz', output?.centroidHz, 0],
  ] as const
  return (
    <>
      <span className="eyebrow">Snapshot {index + 1}</span>
      <TextField
        label="Name of the snapshot"
        value={snapshot.name}
        maxLength={snapshotFields.name.most}
        className="w-full border-b border-transparent bg-transparent font-head text-title font-bold outline-none [font-stretch:var(--head-width)] hover:border-control focus:border-ink"
        onCommit={(text) => {
          if (text.trim() === '') return 'A snapshot needs a name.'
          dispatch(edit({ type: 'renameSnapshot', snapshot: snapshot.id, name: text.trim() }))
          return null
        }}
      />
      <div className="flex flex-wrap gap-x-4">
        <button
          type="button"
          className="act"
          disabled={preset.snapshots.length >= 8}
          onClick={() => {
            const id = dispatch(addSnapshot(snapshot.id))
            if (id) dispatch(snapshotChosen(id))
          }}
        >
          Duplicate
        </button>
        <button
          type="button"
          className="act"
          disabled={preset.snapshots.length === 1}
          onClick={() => dispatch(edit({ type: 'removeSnapshot', snapshot: snapshot.id }))}
        >
          Remove
        </button>
      </div>
      {preset.snapshots.length > 1 && <Grown preset={preset} snapshot={snapshot} onCompare={setAgainst} />}
      <LoudnessPlan preset={preset} snapshot={snapshot} />
      <SnapshotTime preset={preset} snapshot={snapshot} />
      <Takes preset={preset} snapshot={snapshot} />
      {preset.snapshots.length > 1 && (
        <div className="flex flex-wrap gap-x-4">
          <button type="button" className="act" onClick={() => setSwitching(true)}>
            Measure the switches
          </button>
          <button type="button" className="act" onClick={() => setAgainst('')}>
            Against another
          </button>
        </div>
      )}
      <DifferenceDialog preset={preset} snapshot={snapshot} against={against} onChoose={setAgainst} onClose={() => setAgainst(null)} />
      <SwitchingDialog preset={preset} open={switching} onClose={() => setSwitching(false)} />
      <h2 className="mt-2 text-[15px]">
        Spectrum <Explain term="spectrum" />
      </h2>
      <span className="eyebrow">third-octave bands over the riff</span>
      <div className="h-[132px]" data-chart={bands ? 'spectrum' : 'pending'}>
        <Suspense fallback={null}>
          {bands && <LazyChart curves={curves} x={X} y={Y} label={`Third-octave spectrum of ${snapshot.name}`} />}
        </Suspense>
      </div>
      <table className="mt-1 w-full text-[11.5px]">
        <tbody>
          {rows.map(([label, value, places]) => (
            <tr key={label} className="border-t border-rule">
              <td className="py-0.5">{label}</td>
              <td className="num text-right">{figure(value, places)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}
