import { useRef, useState } from 'react'
import { api } from '../../api/api'
import type { DroppedFile, ImportProgress, ImportReport } from '../../threads/import.worker'
import { importer } from '../../threads/crews'
import type { Asked } from '../../background/crew'
import { reasonOf } from '../../background/tasks'
import { notified } from '../../state/notices'
import { useAppDispatch } from '../../state/store'
import { WarningMark } from '../../ui/marks'
import { PaperDialog } from '../../ui/PaperDialog'
import { Progress } from '../../ui/Progress'

const plural = (count: number, one: string, many = `${one}s`): string => `${count.toLocaleString('en-GB')} ${count === 1 ? one : many}`

/** Takes files in, with progress, and tells what became of them. */
export function useImport() {
  const dispatch = useAppDispatch()
  const [progress, setProgress] = useState<ImportProgress | null>(null)
  const [report, setReport] = useState<ImportReport | null>(null)
  const running = useRef<Asked<ImportReport> | null>(null)
  const take = async (files: readonly DroppedFile[]) => {
    if (files.length === 0 || running.current) return
    setReport(null)
    setProgress({ done: 0, total: files.length })
    try {
      running.current = importer.ask({
        task: 'take',
        args: [files],
        key: null,
        // the last word of progress may come after the report: it travels by another way
        onPart: (now) => running.current && setProgress(now as ImportProgress),
      })
      setReport(await running.current.answer)
    } catch (error) {
      const reason = reasonOf(error)
      dispatch(notified({ kind: 'warning', text: `The import stopped: ${reason} What was taken before stays; import the rest again.` }))
    } finally {
      running.current = null
      setProgress(null)
      dispatch(api.util.invalidateTags(['Responses']))
    }
  }
  return { take, stop: () => running.current?.stop(), progress, report, forget: () => setReport(null) }
}

/** How far an import is, or what it brought. */
export function ImportLine({
  progress,
  report,
  onStop,
  onForget,
}: {
  progress: ImportProgress | null
  report: ImportReport | null
  onStop: () => void
  onForget: () => void
}) {
  const [details, setDetails] = useState(false)
  if (progress)
    return (
      <div className="flex items-center gap-3 border-y border-rule py-1 text-[12px]" data-importing>
        <Progress label="Import" value={progress.done} max={progress.total} />
        <span className="num text-label" role="status">
          {progress.done.toLocaleString('en-GB')} of {progress.total.toLocaleString('en-GB')}
        </span>
        <button type="button" className="act" onClick={onStop}>
          Cancel
        </button>
      </div>
    )
  if (!report) return null
  const { taken, refused, duplicates, others, cancelled } = report
  return (
    <div className="flex flex-wrap items-baseline gap-x-3 border-y border-rule py-1 text-[12px]" role="status" data-import-report>
      <span>
        {cancelled && 'Cancelled. '}
        {plural(taken.length, 'response')} taken
        {duplicates.length > 0 && `, ${plural(duplicates.length, 'duplicate')} left out`}
        {others > 0 && `, ${plural(others, 'other file')} left aside`}.
        {refused.length > 0 && (
          <b>
            {' '}
            <WarningMark /> {plural(refused.length, 'file')} not read.
          </b>
        )}
      </span>
      {(refused.length > 0 || duplicates.length > 0) && (
        <button type="button" className="act" onClick={() => setDetails(true)}>
          Which and why
        </button>
      )}
      <button type="button" className="act font-normal" onClick={onForget}>
        Close
      </button>
      <PaperDialog open={details} onClose={() => setDetails(false)} title="What was not taken" wide>
        <ul className="max-h-[50vh] overflow-auto">
          {refused.map(({ path, reason }) => (
            <li key={path} className="border-t border-rule py-1">
              <b className="break-all">{path}</b>: {reason}
            </li>
          ))}
          {duplicates.map(({ path, of }) => (
            <li key={path} className="border-t border-rule py-1 text-ink2">
              <span className="break-all">{path}</span>: the same samples as “{of}”.
            </li>
          ))}
        </ul>
      </PaperDialog>
    </div>
  )
}
