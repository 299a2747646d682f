import { useEffect, useRef, useState } from 'react'
import { Link, Outlet, useLocation, useNavigate, useParams } from 'react-router'
import { api } from '../api/api'
import { session } from '../audio/session'
import { startTour } from './startTour'
import { Tour } from './Tour'
import { openPreset } from '../state/autosave'
import { presetStepped } from '../state/boardSlice'
import { closed } from '../state/editor'
import { measuringCleared } from '../state/measures'
import { auditionChosen, sideChosen } from '../state/player'
import { useAppDispatch, useAppSelector, useAppStore } from '../state/store'
import { renderers } from '../threads/crews'
import { HatchPattern } from '../ui/Hatch'
import { Overlays } from '../ui/Overlays'
import { PresetConflict } from './PresetConflict'
import { PlayerBar } from './PlayerBar'
import { TopBar } from './TopBar'
import { Tuner } from './Tuner'
import { useDeskKeys } from './useDeskKeys'

/** A switch may ask for the next preset on the shelf, by name; what played goes on playing there. */
function usePresetSteps(id: string): void {
  const dispatch = useAppDispatch()
  const store = useAppStore()
  const navigate = useNavigate()
  const { pathname } = useLocation()
  const { player } = session
  const step = useAppSelector((s) => s.board.presetStep)
  const openId = useAppSelector((s) => s.editor.id)
  const resume = useRef(false)
  useEffect(() => {
    if (step === 0) return
    dispatch(presetStepped(0))
    void dispatch(api.endpoints.besidePreset.initiate({ id, step }, { subscribe: false, forceRefetch: true })).then(({ data: next }) => {
      if (!next || next.id === id) return
      resume.current = store.getState().player.playing
      void navigate(pathname.replace(`/${id}`, `/${next.id}`))
    })
  }, [step, id, navigate, pathname, dispatch, store])
  useEffect(() => {
    if (openId !== id || !resume.current) return
    resume.current = false
    void player.toggle()
  }, [openId, id, player])
}

/** Opened by “Hear” it plays as soon as it is there; by “Show me around” the tour begins. */
function usePlayOnce(id: string): void {
  const location = useLocation()
  const navigate = useNavigate()
  const { player } = session
  const openId = useAppSelector((s) => s.editor.id)
  const store = useAppStore()
  const { play = false, tour = false } = (location.state ?? {}) as { play?: boolean; tour?: boolean }
  useEffect(() => {
    if (!(play || tour) || openId !== id) return
    void navigate({ pathname: location.pathname, search: location.search }, { replace: true, state: null })
    if (tour) startTour()
    else if (!store.getState().player.playing) void player.toggle()
  }, [play, tour, openId, id, navigate, location, player, store])
}

/**
 * The address tells the chosen snapshot, so that a reload opens it again. Written past the router: a
 * navigation of its own would end the way to another view that has just begun.
 */
function useSnapshotInAddress(snapshot: string | null): void {
  const { pathname, key } = useLocation()
  useEffect(() => {
    const address = new URL(window.location.href)
    if (!snapshot || address.pathname !== pathname || address.searchParams.get('snapshot') === snapshot) return
    address.searchParams.set('snapshot', snapshot)
    window.history.replaceState(window.history.state, '', address)
  }, [snapshot, pathname, key])
}

/** Come to from another page of Fulgor, the focus is on the chosen row: what had it is gone. */
function useFocusOnArrival(id: string): void {
  const { key } = useLocation()
  const openId = useAppSelector((s) => s.editor.id)
  const first = useRef(key)
  useEffect(() => {
    if (openId !== id || first.current === 'default' || document.activeElement !== document.body) return
    document.querySelector<HTMLElement>('.sheet [role=gridcell][tabindex="0"]')?.focus()
  }, [openId, id])
}

/** Where one preset is open: its name and state above, the player below, a view of it between them. */
export function PresetDesk() {
  const { id = '' } = useParams()
  const { search } = useLocation()
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const openId = useAppSelector((s) => s.editor.id)
  const snapshot = useAppSelector((s) => s.editor.snapshot)
  const name = useAppSelector((s) => s.editor.history?.present.name)
  const [problem, setProblem] = useState<string | null>(null)
  const wanted = useRef(new URLSearchParams(search).get('snapshot'))

  useEffect(() => {
    let current = true
    setProblem(null)
    renderers.warm()
    void dispatch(openPreset(id, wanted.current)).then((reason) => {
      if (current) setProblem(reason)
    })
    return () => {
      current = false
      dispatch(sideChosen('A'))
      dispatch(auditionChosen(null))
      dispatch(closed())
      dispatch(measuringCleared())
    }
  }, [dispatch, id])

  useEffect(() => {
    if (openId === id && snapshot) wanted.current = snapshot
  }, [openId, id, snapshot])
  useSnapshotInAddress(openId === id ? snapshot : null)

  useEffect(() => {
    document.title = name ? `${name} · Fulgor` : 'Fulgor'
  }, [name])

  useDeskKeys()
  usePresetSteps(id)
  usePlayOnce(id)
  useFocusOnArrival(id)

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
    <Overlays>
      <div className="grid min-h-0 min-w-0 grid-rows-[auto_minmax(0,1fr)_auto] small:block small:overflow-y-auto">
        <TopBar />
        <HatchPattern />
        <Outlet />
        <div className="small:contents">
          <Tuner />
          <PlayerBar />
        </div>
        <PresetConflict />
        <Tour />
      </div>
    </Overlays>
  )
}
