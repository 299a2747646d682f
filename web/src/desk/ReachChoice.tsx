import { modelOf } from '@fulgor/core/catalogue'
import { BENCH_KEY, findSnapshot, landing, type Preset, type Reach, type StageNode } from '@fulgor/core/preset'
import { reachChosen } from '../state/editor'
import { useAppDispatch, useAppSelector } from '../state/store'
import { Explain } from '../ui/Explain'
import { Segments } from '../ui/Segments'

interface Props {
  preset: Preset
  stage: StageNode
  /** What is edited; by itself the value that pointer or focus is on. */
  param?: string
}

/** What edits reach, and which snapshots change with the value at hand. */
export function ReachChoice({ preset, stage, param }: Props) {
  const dispatch = useAppDispatch()
  const lit = useAppSelector((s) => s.editor.snapshot)
  const reach = useAppSelector((s) => s.editor.reach)
  const pointed = useAppSelector((s) => s.editor.pointed)
  const snapshot = findSnapshot(preset, lit)
  if (!snapshot || preset.snapshots.length === 1) return <span />
  const number = preset.snapshots.indexOf(snapshot) + 1
  return (
    <div className="min-w-0">
      <div className="flex items-center gap-1.5">
        <Segments
          label="Edits change"
          value={reach}
          options={[
            ['own', `Only ${number}`],
            ['shared', 'All that share it'],
          ]}
          onChange={(next) => dispatch(reachChosen(next))}
        />
        <Explain term="reach" />
      </div>
      <p className="min-h-[30px] text-label leading-[15px] text-ink2" aria-live="polite" data-landing={param ?? pointed ?? ''}>
        {landingWords(preset, stage, param ?? pointed, lit, reach)}
      </p>
    </div>
  )
}

function landingWords(preset: Preset, stage: StageNode, key: string | null, lit: string | null, reach: Reach): string {
  const snapshot = findSnapshot(preset, lit)
  if (!snapshot) return ''
  if (key === null)
    return reach === 'own'
      ? `Edits change “${snapshot.name}” alone. E: all`
      : 'Edits change every snapshot without a value of its own. E: one'
  const specs = modelOf(stage.model).params
  const label = key === 'on' ? 'On or off' : key === BENCH_KEY ? 'Microphones' : specs[key].label
  const goes = landing(preset, stage, key, lit, reach)
  if (goes.own) return `${label}: only “${snapshot.name}”, which has its own.`
  if (goes.snapshot !== null) return `${label}: only “${snapshot.name}”; the others keep theirs.`
  const all = preset.snapshots.length
  if (goes.changes.length === all) return `${label}: all ${all} snapshots.`
  const numbers = (ids: readonly string[]) => preset.snapshots.flatMap((s, i) => (ids.includes(s.id) ? [i + 1] : [])).join(', ')
  const others = preset.snapshots.filter((s) => !goes.changes.includes(s.id)).map((s) => s.id)
  return `${label}: ${numbers(goes.changes)}; ${numbers(others)} ${others.length === 1 ? 'keeps its' : 'keep their'} own.`
}
