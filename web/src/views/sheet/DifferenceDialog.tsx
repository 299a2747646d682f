import { useMemo } from 'react'
import { formatValue, modelOf } from '@fulgor/core/catalogue'
import { BENCH_KEY, findStage, snapshotDifference, type Preset, type Snapshot, type ValueDifference } from '@fulgor/core/preset'
import { wholeOutput } from '../../state/measures'
import { useAppSelector } from '../../state/store'
import { PaperDialog } from '../../ui/PaperDialog'
import { Pick } from '../../ui/Pick'
import { SoundDifference } from './SoundDifference'

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
  const [mine, theirs] = [measures[snapshot.id], other ? measures[other.id] : undefined]
  const here = useMemo(() => wholeOutput(mine), [mine])
  const there = useMemo(() => wholeOutput(theirs), [theirs])
  const values = useMemo(() => (other ? snapshotDifference(preset, other.id, snapshot.id) : []), [preset, other, snapshot.id])
  const changes = useMemo(
    () => new Map(others.map((s) => [s.id, snapshotDifference(preset, s.id, snapshot.id).length])),
    [preset, others, snapshot.id],
  )
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
      <SoundDifference here={here} there={there} name={snapshot.name} />
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
    </PaperDialog>
  )
}

function Row({ preset, difference: { stage: id, key, a, b } }: { preset: Preset; difference: ValueDifference }) {
  const stage = findStage(preset, id)
  if (!stage) return null
  const model = modelOf(stage.model)
  const spec = key === 'on' || key === BENCH_KEY ? null : model.params[key]
  const words = (value: ValueDifference['a']) =>
    typeof value === 'boolean' ? (value ? 'on' : 'off') : spec ? formatValue(spec, value) : String(value)
  return (
    <tr className="border-t border-rule [&>td]:py-0.5">
      <td className="font-semibold">{model.name}</td>
      <td>{spec?.label ?? (key === BENCH_KEY ? 'Microphones' : 'Switched')}</td>
      <td className="num text-right text-ink2">{words(a)}</td>
      <td className="num text-right">{words(b)}</td>
    </tr>
  )
}
