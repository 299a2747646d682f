import { useEffect } from 'react'
import {
  useRestoreDeviceMutation,
  useRestoreGuitarMutation,
  useRestorePlaceMutation,
  useRestoreRecordingMutation,
  useRestoreShowMutation,
  useRestoreResponsesMutation,
} from '../api/api'
import { dismissed, type Notice } from '../state/notices'
import { bringBack, undoShelf } from '../state/shelf'
import { useAppDispatch, useAppSelector } from '../state/store'
import { NoteMark, WarningMark } from '../ui/marks'

/** Passing messages at the foot of the page. */
export function Notices() {
  const notices = useAppSelector((s) => s.notices)
  return (
    <div
      role="status"
      aria-live="polite"
      className="pointer-events-none fixed bottom-[184px] left-1/2 z-50 flex -translate-x-1/2 flex-col items-center gap-1.5"
    >
      {notices.map((notice) => (
        <NoticeLine key={notice.id} notice={notice} />
      ))}
    </div>
  )
}

function NoticeLine({ notice }: { notice: Notice }) {
  const dispatch = useAppDispatch()
  const [restoreResponses] = useRestoreResponsesMutation()
  const [guitar] = useRestoreGuitarMutation()
  const [place] = useRestorePlaceMutation()
  const [device] = useRestoreDeviceMutation()
  const [recording] = useRestoreRecordingMutation()
  const [show] = useRestoreShowMutation()
  const restore = { guitar, place, device, recording, show }
  useEffect(() => {
    // what would be lost with it stays until it is answered
    if (notice.undo?.type === 'bringBack') return
    const timer = setTimeout(() => dispatch(dismissed(notice.id)), notice.kind === 'warning' ? 14_000 : 8_000)
    return () => clearTimeout(timer)
  }, [dispatch, notice])
  return (
    <div className="pointer-events-auto flex max-w-[min(720px,92vw)] items-center gap-3 border border-ink bg-paper px-3 py-1.5 text-body">
      {notice.kind === 'warning' ? <WarningMark /> : <NoteMark />}
      <span>{notice.text}</span>
      {notice.undo && (
        <button
          type="button"
          className="act"
          onClick={() => {
            if (notice.undo?.type === 'shelf') void dispatch(undoShelf())
            if (notice.undo?.type === 'bringBack') void dispatch(bringBack(notice.undo.id, notice.undo.name))
            if (notice.undo?.type === 'restoreKit') void restore[notice.undo.kind](notice.undo.id)
            if (notice.undo?.type === 'restoreResponses') void restoreResponses(notice.undo.hashes)
            dispatch(dismissed(notice.id))
          }}
        >
          {notice.undo.type === 'bringBack' ? 'Put it back' : 'Undo'}
        </button>
      )}
      <button type="button" className="act font-normal" onClick={() => dispatch(dismissed(notice.id))}>
        Close
      </button>
    </div>
  )
}
