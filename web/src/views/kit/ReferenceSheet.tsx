import { recordingFields, type Recording } from '@fulgor/core/recording'
import { useDeleteRecordingMutation } from '../../api/api'
import { ReferenceWave } from '../../reference/ReferenceWave'
import { Statements } from '../../reference/Statements'
import { useReference } from '../../reference/useReference'
import { figure } from '../../ui/format'
import { KitHead, NotThere } from './KitHead'
import { KitNotes } from './KitNotes'
import { KitRemove } from './KitRemove'
import { UsedIn } from './UsedIn'

/** A recording to come near to: its stretches, what they are, and which presets are after it. */
export function ReferenceSheet({ id, to }: { id: string; to: string }) {
  const of = useReference(id, true)
  const [remove] = useDeleteRecordingMutation()
  const { editing, recording } = of
  const { missing, standing, change } = editing
  if (missing !== null || !recording) return <NotThere missing={missing} to={to} others="What is there" />
  const put = (part: Partial<Recording>) => change({ ...recording, ...part })
  const report = of.inspection.answer?.report
  return (
    <div className="min-h-0 min-w-0 overflow-auto px-4 py-2" data-sync={standing.sync}>
      <KitHead kind="reference" name={recording.name} most={recordingFields.name.most} editing={editing} onName={(name) => put({ name })}>
        <KitRemove
          kind="recording"
          id={id}
          name={recording.name}
          to={to}
          keeps={['is after it, and still can be for 30 days.', 'are after it, and still can be for 30 days.']}
          remove={remove}
        />
      </KitHead>
      <KitNotes kind="reference" notes={recording.notes} onNotes={(notes) => put({ notes })} />
      <div className="border-t border-ink pt-1">
        <div className="flex flex-wrap items-baseline gap-x-4 text-[12px]">
          <h2 className="text-section font-bold">What counts of it</h2>
          {report && (
            <span className="num text-ink2">
              {report.lufs === null ? '' : `${figure(report.lufs)} LUFS, `}peak {figure(report.peakDbfs)} dBFS, crest{' '}
              {figure(report.crestDb)} dB, range {figure(report.rangeLu)} LU, brightness {figure(report.centroidHz, 0)} Hz, tilt{' '}
              {figure(report.tiltDb)} dB an octave
            </span>
          )}
        </div>
        <ReferenceWave of={of} />
      </div>
      <div className="mt-2 grid grid-cols-2 gap-x-8 border-t border-ink pt-1 max-[900px]:block">
        <Statements of={of} />
        <UsedIn id={id} name={recording.name} to={(preset) => `/match/${preset}`} none="No preset yet: choose it under Match of one." />
      </div>
    </div>
  )
}
