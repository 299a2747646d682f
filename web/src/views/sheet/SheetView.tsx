import { useEffect, useRef, useState } from 'react'
import { Link, useNavigate, useParams, useSearchParams } from 'react-router'
import { openPreset } from '../../state/autosave'
import { closed } from '../../state/editor'
import { measuringCleared } from '../../state/measures'
import { sideChosen } from '../../state/player'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { ConflictDialog } from './ConflictDialog'
import { HatchPattern } from './EmberTrace'
import { FocusPanel } from './FocusPanel'
import { Matrix } from './Matrix'
import { PlayerBar } from './PlayerBar'
import { TopBar } from './TopBar'
import { useSheetKeys } from './useSheetKeys'

/** The preset on one page like a score: signal down the rows, snapshots across the columns. */
export function SheetView() {
  const { id = '' } = useParams()
  const [search, setSearch] = useSearchParams()
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const openId = useAppSelector((s) => s.editor.id)
  const snapshot = useAppSelector((s) => s.editor.snapshot)
  const name = useAppSelector((s) => s.editor.history?.present.name)
  const [problem, setProblem] = useState<string | null>(null)
  const wanted = useRef(search.get('snapshot'))

  useEffect(() => {
    let current = true
    setProblem(null)
    void dispatch(openPreset(id, wanted.current)).then((reason) => {
      if (current) setProblem(reason)
    })
    return () => {
      current = false
      dispatch(sideChosen('A'))
      dispatch(closed())
      dispatch(measuringCleared())
    }
  }, [dispatch, id])

  useEffect(() => {
    if (openId !== id || !snapshot) return
    wanted.current = snapshot
    setSearch({ snapshot }, { replace: true })
  }, [openId, id, snapshot, setSearch])

  useEffect(() => {
    document.title = name ? `${name} · Fulgor` : 'Fulgor'
  }, [name])

  useSheetKeys()

  if (problem !== null) {
    return (
      <main className="p-6">
        <h1 className="text-title">This preset does not open</h1>
        <p className="my-2 max-w-prose text-ink2">{problem}</p>
        <button type="button" className="act mr-4" onClick={() => void navigate(0)}>
          Try again
        </button>
        <Link className="act inline-block" to="/shelf">
          Go to the shelf
        </Link>
      </main>
    )
  }
  if (openId !== id) return <main className="p-6 text-ink3">Opening the preset …</main>
  return (
    <div className="grid min-h-0 min-w-0 grid-rows-[auto_minmax(0,1fr)_auto] max-[700px]:block max-[700px]:overflow-y-auto">
      <TopBar />
      <HatchPattern />
      <main className="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)_var(--focus-w)] max-[1100px]:grid-cols-1 max-[1100px]:grid-rows-[minmax(0,1fr)_minmax(0,44%)] max-[700px]:block">
        <Matrix />
        <FocusPanel />
      </main>
      <PlayerBar />
      <ConflictDialog />
    </div>
  )
}
