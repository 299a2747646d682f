import { useEffect } from 'react'
import { api } from '../api/api'
import { serverBack } from '../api/connection'
import { useAppDispatch, useAppSelector } from '../state/store'
import { when } from '../ui/format'
import { WarningMark } from '../ui/marks'

const ASK_MS = 4_000

/** Says that the server is away and what is shown instead, until it answers again. */
export function AwayLine() {
  const dispatch = useAppDispatch()
  const { away, keptAt } = useAppSelector((s) => s.connection)
  useEffect(() => {
    if (!away) return
    const timer = setInterval(() => {
      void fetch('/api/health', { cache: 'no-store' })
        .then(({ ok }) => {
          if (!ok) return
          dispatch(serverBack())
          dispatch(api.util.invalidateTags(['Shelf', 'Versions', 'Guitars', 'Places', 'Recordings', 'Devices', 'Shows', 'Responses']))
        })
        .catch(() => undefined)
    }, ASK_MS)
    return () => clearInterval(timer)
  }, [away, dispatch])
  if (!away) return null
  return (
    <p role="status" className="flex items-center gap-2 border-b border-ink bg-deep px-4 py-1 text-[12px] font-semibold">
      <WarningMark />
      The Fulgor server does not answer.
      {keptAt !== null && ` What you see is as this browser kept it, ${when(keptAt)}.`} Edits are kept here and sent when it is back.
    </p>
  )
}
