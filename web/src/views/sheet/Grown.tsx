import { formatValue, modelOf } from '@fulgor/core/catalogue'
import { BENCH_KEY, findStage, snapshotDifference, type Preset, type Snapshot, type ValueDifference } from '@fulgor/core/preset'
import { edit } from '../../state/actions'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { figure } from '../../ui/format'
import { Pick } from '../../ui/Pick'

const SHOWN = 5

/** What a snapshot has grown from, and how it differs from that: "more gain, 6.2 → 7.5". */
export function Grown({ preset, snapshot, onCompare }: { preset: Preset; snapshot: Snapshot; onCompare: (other: string) => void }) {
  const dispatch = useAppDispatch()
  const parent = preset.snapshots.find((s) => s.id === snapshot.parent)
  const measures = useAppSelector((s) => s.measures.snapshots)
  const options = [['', 'nothing'] as const, ...preset.snapshots.filter((s) => s.id !== snapshot.id).map((s) => [s.id, s.name] as const)]
  const differences = parent ? snapshotDifference(preset, parent.id, snapshot.id) : []
  const [here, there] = [measures[snapshot.id], parent ? measures[parent.id] : undefined].map((m) => (m?.fresh ? m.output : null))
  const louder = here?.integratedLufs != null && there?.integratedLufs != null ? here.integratedLufs - there.integratedLufs : null
  const brighter = here?.centroidHz != null && there?.centroidHz != null ? here.centroidHz - there.centroidHz : null
  return (
    <section aria-label="Grown from" className="text-[12px]">
      <div className="flex min-h-6 items-baseline justify-between gap-2">
        <span className="text-ink2">Grown from</span>
        <Pick
          label="Grown from"
          value={parent?.id ?? ''}
          options={options}
          onChange={(id) => dispatch(edit({ type: 'setPlan', snapshot: snapshot.id, plan: { parent: id === '' ? null : id } }))}
        />
      </div>
      {parent && (
        <>
          <ul data-grown={differences.length} className="text-[11.5px] leading-[16px]">
            {differences.slice(0, SHOWN).map((d) => (
              <li key={`${d.stage} ${d.key}`}>{wordsOf(preset, d)}</li>
            ))}
            {differences.length === 0 && <li className="text-ink3">Nothing differs yet.</li>}
          </ul>
          <p className="text-[11.5px] text-ink2">
            {differences.length > SHOWN && `and ${differences.length - SHOWN} more; `}
            {louder === null ? (
              'measuring both … '
            ) : (
              <>
                <span className="num">{figure(louder, 1, true)}</span> LU, <span className="num">{figure(brighter, 0, true)}</span> Hz
                brighter{' '}
              </>
            )}
            <button type="button" className="act" onClick={() => onCompare(parent.id)}>
              See all
            </button>
          </p>
        </>
      )}
    </section>
  )
}

function wordsOf(preset: Preset, { stage: id, key, a, b }: ValueDifference): string {
  const stage = findStage(preset, id)
  if (!stage) return ''
  const { name, params } = modelOf(stage.model)
  if (typeof a === 'boolean') return `${name} ${b === true ? 'on' : 'off'}`
  if (key === BENCH_KEY) return `${name}: other microphones, ${String(b)}`
  const spec = params[key]
  const values = `${formatValue(spec, a)} → ${formatValue(spec, b as typeof a)}`
  if (typeof a !== 'number') return `${name}, ${spec.label.toLowerCase()} ${values}`
  return `${Number(b) > a ? 'more' : 'less'} ${spec.label.toLowerCase()}, ${values} (${name})`
}
