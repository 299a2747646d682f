import { type Preset } from '@fulgor/core/preset'
import { reachChosen, snapshotChosen } from '../../state/editor'
import { useAppDispatch, useAppSelector } from '../../state/store'

/** Stands for rows that are alike in every snapshot while only the others are shown. */
export const LeftOut = ({ count, onShow }: { count: number; onShow: () => void }) => (
  <div role="row" className="flex h-5 flex-none items-center border-b border-rule bg-deep">
    <div role="gridcell" className="sticky left-0 pl-[calc(var(--gutter-w)+6px)]">
      <button type="button" className="text-axis text-ink3 hover:text-ink" onClick={onShow}>
        {count} {count === 1 ? 'row' : 'rows'} as the base
      </button>
    </div>
  </div>
)

/** In a phone's width one snapshot is in view at a time: their numbers stand above the sheet. */
export function SnapshotSwitch({ preset, lit, onAdd }: { preset: Preset; lit: string | null; onAdd: () => void }) {
  const dispatch = useAppDispatch()
  return (
    <div
      className="flex min-h-9 flex-none items-center gap-1 border-b border-rule px-3 min-[701px]:hidden"
      role="group"
      aria-label="Snapshots"
    >
      {preset.snapshots.map((snapshot, i) => (
        <button
          key={snapshot.id}
          type="button"
          aria-pressed={snapshot.id === lit}
          aria-label={`Snapshot ${i + 1}, ${snapshot.name}`}
          onClick={() => dispatch(snapshotChosen(snapshot.id))}
          className={`num min-h-8 min-w-8 border-b-2 ${snapshot.id === lit ? 'border-ember bg-lit font-bold text-ember' : 'border-transparent text-ink2'}`}
        >
          {i + 1}
        </button>
      ))}
      {preset.snapshots.length < 8 && (
        <button type="button" className="act ml-auto text-[12px]" onClick={onAdd}>
          Add snapshot
        </button>
      )}
    </div>
  )
}

/** The base's column: lit, edits reach all snapshots that share a value. */
export function BaseHead({ preset }: { preset: Preset }) {
  const dispatch = useAppDispatch()
  const shared = useAppSelector((s) => s.editor.reach === 'shared')
  if (preset.snapshots.length === 1) return <span className="eyebrow absolute right-2 bottom-1">base</span>
  return (
    <button
      type="button"
      aria-pressed={shared}
      title="Base: what all snapshots share that have no value of their own. Chosen, edits reach all of them (E)"
      className={`absolute right-0 bottom-0 min-h-6 px-2 text-label ${shared ? 'border-b-[3px] border-ember font-bold text-ember' : 'text-ink3 hover:text-ink'}`}
      onClick={() => dispatch(reachChosen(shared ? 'own' : 'shared'))}
    >
      base
    </button>
  )
}
