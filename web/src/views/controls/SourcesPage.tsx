import { useMemo, useState } from 'react'
import { checkPreset } from '@fulgor/core/checks'
import { findSnapshot, type Control, type Preset } from '@fulgor/core/preset'
import { FindingItem } from '../../desk/Findings'
import { newId, presentPreset } from '../../state/actions'
import { moveControl, positionIn } from '../../state/controls'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { SourceHead } from './SourceHead'
import { SourceList } from './SourceList'
import { SweepChart } from './SweepChart'
import { TargetTable } from './TargetTable'
import { useSweep } from './useSweep'

/** Sources, what they move, and what that does along their whole travel. */
export function SourcesPage() {
  const dispatch = useAppDispatch()
  const preset = useAppSelector(presentPreset)
  const lit = useAppSelector((s) => s.editor.snapshot)
  const [chosen, setChosen] = useState<string | null>(null)
  const control = preset?.controls?.find((c) => c.id === chosen) ?? preset?.controls?.at(0) ?? null
  const position = useAppSelector((s) => (control ? positionIn(s, control) : 0))
  if (!preset) return null
  const snapshot = findSnapshot(preset, lit) ?? preset.snapshots[0]
  return (
    <div className="grid min-h-0 min-w-0 grid-cols-[206px_minmax(0,1fr)] max-[1100px]:grid-cols-1 max-[1100px]:overflow-auto max-[700px]:block">
      <SourceList preset={preset} chosen={control?.id ?? null} onChoose={setChosen} />
      <section aria-label="Source" className="min-h-0 min-w-0 overflow-auto px-4 pt-2 pb-4">
        {control ? (
          <>
            <SourceHead key={control.id} control={control} count={control.targets.length} onRemoved={() => setChosen(null)} />
            <Travel
              key={`${control.id} travel`}
              preset={preset}
              control={control}
              snapshot={snapshot}
              position={position}
              onMove={(p) => dispatch(moveControl(control, p))}
            />
            <TargetTable preset={preset} control={control} position={position} lit={snapshot.id} />
            <ConflictList preset={preset} control={control} />
          </>
        ) : (
          <p className="mt-4 max-w-[60ch] text-ink2">
            Nothing moves yet. Add a pedal, a switch, the guitar’s own volume or something that swings by itself, then choose what it moves:
            the whole travel is drawn and measured here before the show.
          </p>
        )}
      </section>
    </div>
  )
}

function Travel(props: Omit<Parameters<typeof SweepChart>[0], 'sweep'>) {
  const sweep = useSweep(props.preset, props.control, props.snapshot.id)
  return <SweepChart {...props} sweep={sweep} />
}

/** What is found about this source. */
function ConflictList({ preset, control }: { preset: Preset; control: Control }) {
  const findings = useMemo(() => checkPreset(preset, newId).filter((f) => f.controls?.includes(control.id)), [preset, control.id])
  if (findings.length === 0) return null
  return (
    <ul aria-label="Findings of the source" className="mt-2 max-w-[820px] border-t border-ink text-[12px]">
      {findings.map((finding) => (
        <FindingItem key={`${finding.rule} ${finding.figure}`} preset={preset} finding={finding} />
      ))}
    </ul>
  )
}
