import type { Preset } from '@fulgor/core/preset'
import type { Reading } from '@fulgor/core/reading'
import { snapshotChosen } from '../../state/editor'
import { useAppDispatch } from '../../state/store'
import { Explain } from '../../ui/Explain'
import { figure } from '../../ui/format'

/** dB that a mono sum must leave of a third octave, or it counts as gone: unrelated sides lose 3. */
const GONE_DB = -9

/** What a mono house takes away: LU of every snapshot, and the third octaves of the lit one that vanish. */
export function MonoCheck({
  preset,
  lit,
  readings,
}: {
  preset: Preset
  lit: string
  readings: Readonly<Partial<Record<string, Reading>>>
}) {
  const dispatch = useAppDispatch()
  const gone = (readings[lit]?.monoBands ?? []).filter((b) => b.db <= GONE_DB)
  return (
    <div className="mt-2 border-t border-rule pt-1 text-[12px]" data-mono="">
      <h3 className="font-semibold">
        Lost in mono, LU <Explain term="monoCheck" />
      </h3>
      <div className="flex flex-wrap gap-x-3">
        {preset.snapshots.map(({ id, name }, i) => {
          const lost = readings[id]?.monoLossLu
          return (
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
              {lost == null ? '–' : Number.isFinite(lost) ? figure(lost) : 'all'}
            </button>
          )
        })}
      </div>
      <p className="text-ink2">
        {gone.length === 0
          ? 'No third octave vanishes in the lit one.'
          : `In the lit one vanish ${gone.map((b) => `${b.hz >= 1000 ? `${b.hz / 1000}k` : b.hz} Hz (${figure(b.db, 0)} dB)`).join(', ')}.`}
      </p>
    </div>
  )
}
