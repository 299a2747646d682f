import type { Preset } from '@fulgor/core/preset'
import type { Reading } from '@fulgor/core/reading'
import { Explain } from '../../ui/Explain'
import { figure } from '../../ui/format'
import { SnapshotFigures } from './SnapshotFigures'

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
  const gone = (readings[lit]?.monoBands ?? []).filter((b) => b.db <= GONE_DB)
  return (
    <div className="mt-2 border-t border-rule pt-1 text-[12px]" data-mono="">
      <h3 className="font-semibold">
        Lost in mono, LU <Explain term="monoCheck" />
      </h3>
      <SnapshotFigures
        preset={preset}
        lit={lit}
        told={(id) => {
          const lost = readings[id]?.monoLossLu
          return lost == null ? '–' : Number.isFinite(lost) ? figure(lost) : 'all'
        }}
      />
      <p className="text-ink2">
        {gone.length === 0
          ? 'No third octave vanishes in the lit one.'
          : `In the lit one vanish ${gone.map((b) => `${b.hz >= 1000 ? `${b.hz / 1000}k` : b.hz} Hz (${figure(b.db, 0)} dB)`).join(', ')}.`}
      </p>
    </div>
  )
}
