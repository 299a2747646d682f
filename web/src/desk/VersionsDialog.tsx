import { sentenceOf, useLazyVersionQuery, useVersionsQuery } from '../api/api'
import { edit } from '../state/actions'
import { notified } from '../state/notices'
import { useAppDispatch, useAppSelector } from '../state/store'
import { when } from '../ui/format'
import { PaperDialog } from '../ui/PaperDialog'

/** What was stored of this preset; restoring is an edit like any other and can be undone. */
export function VersionsDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const dispatch = useAppDispatch()
  const id = useAppSelector((s) => s.editor.id)
  const { data, error } = useVersionsQuery(id ?? '', { skip: !open || !id, refetchOnMountOrArgChange: true })
  const [load] = useLazyVersionQuery()
  const restore = async (number: number) => {
    if (!id) return
    const answer = await load({ id, number })
    if (answer.data) {
      dispatch(edit({ type: 'replace', preset: answer.data.document }))
      dispatch(notified({ kind: 'note', text: `Version ${number} is back on the sheet. Undo returns to where you were.` }))
      onClose()
    } else dispatch(notified({ kind: 'warning', text: sentenceOf(answer.error) }))
  }
  return (
    <PaperDialog open={open} onClose={onClose} title="Versions">
      {error !== undefined && <p className="text-ink2">{sentenceOf(error)}</p>}
      <table className="w-full">
        <thead>
          <tr className="eyebrow text-left">
            <th className="font-normal">No.</th>
            <th className="font-normal">Stored</th>
            <th className="font-normal">By</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {(data ?? []).map((version, i) => (
            <tr key={version.number} className="border-t border-rule">
              <td className="num py-1 pr-4">{version.number}</td>
              <td className="num py-1 pr-4">{when(version.createdAt)}</td>
              <td className={`py-1 pr-4 ${version.kind === 'saved' ? 'font-semibold' : 'text-ink2'}`}>
                {version.kind === 'saved' ? 'you' : 'autosave'}
              </td>
              <td className="py-1 text-right">
                {i === 0 ? (
                  <span className="text-ink3">latest</span>
                ) : (
                  <button type="button" className="act" onClick={() => void restore(version.number)}>
                    Restore
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </PaperDialog>
  )
}
