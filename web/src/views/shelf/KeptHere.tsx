import { useEffect, useState } from 'react'
import { Link } from 'react-router'
import { sentenceOf, useCreatePresetMutation } from '../../api/api'
import { notified } from '../../state/notices'
import { clearPending, keepPending, readAllKept, type Kept } from '../../state/pending'
import { useAppDispatch } from '../../state/store'
import { openTabs, tabReady, thisTab } from '../../state/tab'

/** An edit that was just made is on its way. */
const SENDING_MS = 2_000

type Row = Kept & { readonly id: string }

const told = (at: number): string =>
  at === 0
    ? 'at an unknown time'
    : new Date(at).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })

/** Edits that this browser keeps because the server has not taken them: of tabs that are closed, of days without the server. */
export function KeptHere() {
  const dispatch = useAppDispatch()
  const [create] = useCreatePresetMutation()
  const [rows, setRows] = useState<readonly Row[]>([])
  const [thrown, setThrown] = useState<readonly Row[]>([])
  useEffect(() => {
    let current = true
    const look = async () => {
      await tabReady
      const open = await openTabs()
      const others = new Set([...open].filter((tab) => tab !== thisTab()))
      const kept = readAllKept(others).filter((row) => row.at < Date.now() - SENDING_MS)
      if (current) setRows((now) => (kept.length === 0 && now.length === 0 ? now : kept))
    }
    void look()
    const timer = setInterval(() => void look(), SENDING_MS)
    return () => {
      current = false
      clearInterval(timer)
    }
  }, [])
  if (rows.length + thrown.length === 0) return null

  const shelve = async (row: Row) => {
    const { document } = row.pending
    const made = await create({ ...document, name: `${document.name.slice(0, 60)} (kept ${told(row.at)})` })
    if (made.error) {
      dispatch(notified({ kind: 'warning', text: `Not put on the shelf: ${sentenceOf(made.error)}` }))
      return
    }
    clearPending(row.id, row.tab)
    setRows((all) => all.filter((r) => r !== row))
  }
  const throwAway = (row: Row) => {
    clearPending(row.id, row.tab)
    setRows((all) => all.filter((r) => r !== row))
    setThrown((all) => [...all, row])
  }
  const keep = (row: Row) => {
    keepPending(row.id, row.pending, row.tab)
    setThrown((all) => all.filter((r) => r !== row))
    setRows((all) => [...all, row])
  }
  return (
    <section aria-label="Edits kept here" className="mb-4 border border-rule2 px-4 py-2">
      <h2 className="text-name font-bold">Edits kept here</h2>
      <p className="text-[12px] text-ink2">This browser has edits that the server has not taken yet.</p>
      <ul>
        {[...rows, ...thrown].map((row) => (
          <li key={`${row.id} ${row.tab}`} className="flex flex-wrap items-baseline gap-x-4 border-t border-rule py-1">
            <span className={`font-semibold ${thrown.includes(row) ? 'text-ink3 line-through' : ''}`}>{row.pending.document.name}</span>
            <span className="num text-label text-ink2">{told(row.at)}</span>
            {thrown.includes(row) ? (
              <button type="button" className="act ml-auto" onClick={() => keep(row)}>
                Keep them after all
              </button>
            ) : (
              <span className="ml-auto flex gap-4">
                <Link className="act" to={`/sheet/${row.id}`}>
                  Open
                </Link>
                <button type="button" className="act" onClick={() => void shelve(row)}>
                  Put on the shelf as a preset of its own
                </button>
                <button type="button" className="act font-normal" onClick={() => throwAway(row)}>
                  Throw away
                </button>
              </span>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}
