import { Link } from 'react-router'
import { formatValue } from '@fulgor/core/catalogue'
import { isLive, targetSpec, type Preset, type Snapshot, type StageNode } from '@fulgor/core/preset'
import { useAppSelector } from '../../state/store'

/** Sources that move values of the stage in the lit snapshot: while they act, those are theirs. */
export function MovedBy({ preset, stage, snapshot }: { preset: Preset; stage: StageNode; snapshot: Snapshot | undefined }) {
  const id = useAppSelector((s) => s.editor.id)
  const movers = (preset.controls ?? []).flatMap((control) => {
    const targets = control.targets.filter((t) => t.stage === stage.id && isLive(t, snapshot?.id ?? null))
    return targets.length === 0 ? [] : [{ control, targets }]
  })
  if (movers.length === 0 || !snapshot) return null
  return (
    <ul className="mt-1.5 border-t border-rule pt-1 text-[11.5px] leading-[15px]" aria-label="Moved by">
      {movers.map(({ control, targets }) => (
        <li key={control.id} data-moved-by={control.name}>
          <Link className="font-semibold underline underline-offset-2 hover:text-ember" to={`/controls/${id}?snapshot=${snapshot.id}`}>
            {control.name}
          </Link>{' '}
          <span className="text-ink2">
            moves{' '}
            {targets
              .map((target) => {
                const spec = targetSpec(preset, target)
                return spec
                  ? `${spec.label.toLowerCase()} ${formatValue(spec, target.from)} to ${formatValue(spec, target.to)}`
                  : 'on and off'
              })
              .join(', ')}{' '}
            in {snapshot.name}
          </span>
        </li>
      ))}
    </ul>
  )
}
