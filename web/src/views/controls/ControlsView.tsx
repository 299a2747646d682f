import { NavLink, Outlet, useLocation, useParams } from 'react-router'
import { Explain } from '../../ui/Explain'
import { presentPreset } from '../../state/actions'
import { loadSnapshot } from '../../state/controls'
import { useAppDispatch, useAppSelector } from '../../state/store'

const PAGES = [
  ['', 'Sources'],
  ['/board', 'Foot controller'],
  ['/midi', 'MIDI'],
] as const

/** What the player moves and presses: sources, the foot controller, and the messages of both. */
export function ControlsView() {
  const dispatch = useAppDispatch()
  const { id = '' } = useParams()
  const { search, pathname } = useLocation()
  const page = pathname.endsWith('/board') ? 'board' : pathname.endsWith('/midi') ? 'midi' : 'sources'
  const preset = useAppSelector(presentPreset)
  const lit = useAppSelector((s) => s.editor.snapshot)
  if (!preset) return null
  return (
    <main className="controls grid min-h-0 min-w-0 grid-rows-[auto_minmax(0,1fr)] max-[1100px]:overflow-auto max-[700px]:block">
      <header className="flex flex-wrap items-baseline gap-x-5 gap-y-0.5 border-b border-ink px-3.5 pt-1.5 pb-1">
        <h1 className="text-title leading-[1.3]">
          Controls <Explain term={page} />
        </h1>
        <nav aria-label="Pages of the controls" className="flex gap-x-3.5">
          {PAGES.map(([path, name]) => (
            <NavLink
              key={path}
              end
              to={`/controls/${id}${path}${search}`}
              className={({ isActive }) =>
                `min-h-6 border-b-2 leading-[20px] ${isActive ? 'border-ember font-bold' : 'border-transparent text-ink2 hover:text-ink'}`
              }
            >
              {name}
            </NavLink>
          ))}
        </nav>
        <div className="ml-auto flex flex-wrap items-baseline gap-x-2.5 text-[12px]" role="group" aria-label="Snapshot">
          <span className="text-ink2">In snapshot</span>
          {preset.snapshots.map((s, i) => (
            <button
              key={s.id}
              type="button"
              aria-pressed={s.id === lit}
              title={s.name}
              className={`min-h-6 max-w-[180px] truncate border-b-2 ${s.id === lit ? 'border-ember font-bold' : 'border-transparent text-ink2 hover:text-ink'}`}
              onClick={() => dispatch(loadSnapshot(s.id))}
            >
              {i + 1} {s.name}
            </button>
          ))}
        </div>
      </header>
      <Outlet />
    </main>
  )
}
