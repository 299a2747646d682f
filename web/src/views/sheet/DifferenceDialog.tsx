import { Suspense, useMemo } from 'react'
import { formatValue, modelOf } from '@fulgor/core/catalogue'
import type { OutputMeasures } from '@fulgor/core/measure'
import { findStage, snapshotDifference, type Preset, type Snapshot, type ValueDifference } from '@fulgor/core/preset'
import { useAppSelector } from '../../state/store'
import { figure } from '../../ui/format'
import { LazyChart } from '../../ui/LazyChart'
import { PaperDialog } from '../../ui/PaperDialog'
import { Pick } from '../../ui/Pick'

const X = {
  log: true,
  min: 50,
  max: 16_000,
  ticks: [100, 1_000, 10_000],
  format: (v: number) => (v >= 1000 ? `${v / 1000}k` : String(v)),
  unit: 'Hz',
}

/** Two snapshots side by side: the values that change at the switch, and what that does to the sound. */
export function DifferenceDialog({
  preset,
  snapshot,
  against,
  onChoose,
  onClose,
}: {
  preset: Preset
  snapshot: Snapshot
  /** Id of the other one, or '' for any; null while the dialog is closed. */
  against: string | null
  onChoose: (other: string) => void
  onClose: () => void
}) {
  const others = preset.snapshots.filter((s) => s.id !== snapshot.id)
  const other = others.find((s) => s.id === against) ?? others.find((s) => s.id === snapshot.parent) ?? others.at(0)
  const measures = useAppSelector((s) => s.measures.snapshots)
  const here = measures[snapshot.id]?.fresh ? measures[snapshot.id].output : null
  const there = other && measures[other.id]?.fresh ? measures[other.id].output : null
  const values = useMemo(() => (other ? snapshotDifference(preset, other.id, snapshot.id) : []), [preset, other, snapshot.id])
  const changes = useMemo(() => new Map(others.map((s) => [s.id, snapshotDifference(preset, s.id, snapshot.id).length])), [preset, others, snapshot.id]) // prettier-ignore
  if (!other) return null
  return (
    <PaperDialog open={against !== null} onClose={onClose} title={`“${snapshot.name}” against another snapshot`} wide>
      <div className="flex items-baseline gap-3">
        <span className="text-ink2">against</span>
        <Pick
          label="Against which snapshot"
          value={other.id}
          options={others.map((s) => [s.id, `${s.name} (${changes.get(s.id)} values change)`] as const)}
          className="font-semibold"
          onChange={onChoose}
        />
      </div>
      <Sound here={here} there={there} name={snapshot.name} />
      <div className="max-h-[36vh] overflow-auto">
        <table className="w-full text-[12px]" aria-label="Values that change" data-differences={values.length}>
          <thead>
            <tr className="text-label text-ink3 [&>th]:py-1 [&>th]:text-left [&>th]:font-normal">
              <th>Stage</th>
              <th>Value</th>
              <th className="!text-right">{other.name}</th>
              <th className="!text-right">{snapshot.name}</th>
            </tr>
          </thead>
          <tbody>
            {values.map((d) => (
              <Row key={`${d.stage} ${d.key}`} preset={preset} difference={d} />
            ))}
          </tbody>
        </table>
        {values.length === 0 && <p className="py-2 text-ink2">Nothing changes between them.</p>}
      </div>
      <button type="button" className="btn mt-3" onClick={onClose}>
        Close
      </button>
    </PaperDialog>
  )
}

function Row({ preset, difference: { stage: id, key, a, b } }: { preset: Preset; difference: ValueDifference }) {
  const stage = findStage(preset, id)
  if (!stage) return null
  const model = modelOf(stage.model)
  const spec = key === 'on' ? null : model.params[key]
  const words = (value: ValueDifference['a']) =>
    typeof value === 'boolean' ? (value ? 'on' : 'off') : spec ? formatValue(spec, value) : String(value)
  return (
    <tr className="border-t border-rule [&>td]:py-0.5">
      <td className="font-semibold">{model.name}</td>
      <td>{spec?.label ?? 'Switched'}</td>
      <td className="num text-right text-ink2">{words(a)}</td>
      <td className="num text-right">{words(b)}</td>
    </tr>
  )
}

/** Loudness, brightness and third octaves of one against the other. */
function Sound({ here, there, name }: { here: OutputMeasures | null; there: OutputMeasures | null; name: string }) {
  const curves = useMemo(() => {
    if (!here || !there) return []
    const points = here.thirdOctave.flatMap((band, i) => {
      const other = there.thirdOctave[i]?.db
      return band.db === null || other === null || other === undefined ? [] : [[band.hz, band.db - other] as const]
    })
    return [{ label: '', tone: 'ember' as const, stepped: true, points }]
  }, [here, there])
  if (!here || !there) return <p className="my-2 text-ink3">Measuring both …</p>
  const louder = here.integratedLufs !== null && there.integratedLufs !== null ? here.integratedLufs - there.integratedLufs : null
  const brighter = here.centroidHz !== null && there.centroidHz !== null ? here.centroidHz - there.centroidHz : null
  const crest = here.crestDb !== null && there.crestDb !== null ? here.crestDb - there.crestDb : null
  return (
    <>
      <p className="mt-2" data-louder={louder?.toFixed(2)}>
        {name}: <b className="num">{figure(louder, 1, true)} LU</b>, brightness <b className="num">{figure(brighter, 0, true)} Hz</b>, crest{' '}
        <b className="num">{figure(crest, 1, true)} dB</b>. Third octaves, dB:
      </p>
      <Suspense fallback={<div style={{ height: 132 }} />}>
        <LazyChart
          curves={curves}
          x={X}
          y={{ min: -18, max: 18, interval: 6, unit: 'dB' }}
          label="Third-octave difference of two snapshots"
        />
      </Suspense>
    </>
  )
}
