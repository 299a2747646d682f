import type { Preset } from '@fulgor/core/preset'
import { snapshotChosen } from '../../state/editor'
import { useAppDispatch } from '../../state/store'

/** One figure of every snapshot in a row; a press lights the snapshot. */
export function SnapshotFigures({ preset, lit, told }: { preset: Preset; lit: string; told: (id: string) => string }) {
  const dispatch = useAppDispatch()
  return (
    <div className="flex flex-wrap gap-x-3">
      {preset.snapshots.map(({ id, name }, i) => (
        <button
          key={id}
          type="button"
          title={name}
          aria-pressed={id === lit}
          onClick={() => dispatch(snapshotChosen(id))}
          className={`num min-h-6 border-b-2 text-center ${id === lit ? 'border-ember font-bold' : 'border-transparent'}`}
        >
          <span className="sr-only">{name}: </span>
          <span className="block text-axis text-ink3">{i + 1}</span>
          {told(id)}
        </button>
      ))}
    </div>
  )
}
