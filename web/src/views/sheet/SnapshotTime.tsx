import { tempoOf, type Preset, type Snapshot } from '@fulgor/core/preset'
import { NOTE_VALUES } from '@fulgor/core/stage'
import { edit } from '../../state/actions'
import { useAppDispatch } from '../../state/store'
import { figure } from '../../ui/format'
import { Pick } from '../../ui/Pick'

/** The tempo of a snapshot, and what one tap of the player stands for. */
export function SnapshotTime({ preset, snapshot }: { preset: Preset; snapshot: Snapshot }) {
  const dispatch = useAppDispatch()
  const own = snapshot.tempo !== undefined
  const tempo = tempoOf(preset, snapshot.id)
  return (
    <section aria-label="Time" className="text-[12px]">
      <h2 className="mt-2 text-[15px]">Time</h2>
      <div className="flex min-h-6 items-baseline justify-between gap-2 border-t border-rule py-0.5">
        <span className="text-ink2">Tempo</span>
        <span className="flex items-baseline gap-3">
          <span className="num">{figure(tempo, tempo % 1 ? 1 : 0)} bpm</span>
          <button
            type="button"
            className="act"
            aria-pressed={own}
            onClick={() => dispatch(edit({ type: 'setPlan', snapshot: snapshot.id, plan: { tempo: own ? null : preset.tempo } }))}
          >
            {own ? 'follow the preset' : 'its own'}
          </button>
        </span>
      </div>
      <div className="flex min-h-6 items-baseline justify-between gap-2 border-t border-rule py-0.5">
        <span className="text-ink2">One tap is a</span>
        <Pick
          label="One tap is a"
          value={snapshot.tap ?? 'quarter'}
          options={NOTE_VALUES.map((n) => [n.id, n.name.toLowerCase()] as const)}
          onChange={(tap) => dispatch(edit({ type: 'setPlan', snapshot: snapshot.id, plan: { tap: tap === 'quarter' ? null : tap } }))}
        />
      </div>
    </section>
  )
}
