import { useEffect } from 'react'
import { NavLink, Outlet, useLocation } from 'react-router'
import { HatchPattern } from '../../ui/Hatch'
import { Explain } from '../../ui/Explain'
import { Overlays } from '../../ui/Overlays'

const PAGES = [
  ['guitars', 'Guitars'],
  ['places', 'Places'],
  ['devices', 'Devices'],
  ['riffs', 'Riffs'],
  ['backings', 'Backings'],
  ['references', 'References'],
] as const

/** What the player owns: guitars, and where and what they are heard with. */
export function KitView() {
  const { pathname } = useLocation()
  const page = PAGES.find(([path]) => pathname.startsWith(`/kit/${path}`)) ?? PAGES[0]
  useEffect(() => {
    document.title = `${page[1]} · Fulgor`
  }, [page])
  return (
    <main className="kit grid min-h-0 min-w-0 grid-rows-[auto_minmax(0,1fr)] max-[900px]:block max-[900px]:overflow-auto">
      <Overlays>
        <HatchPattern />
      </Overlays>
      <header className="flex min-h-[var(--top-h)] flex-wrap items-center gap-x-5 gap-y-0.5 border-b border-rule2 px-4">
        <h1 className="text-title leading-[1.3]">
          Kit <Explain term={page[0]} />
        </h1>
        <nav aria-label="Pages of the Kit" className="flex flex-wrap gap-x-3.5">
          {PAGES.map(([path, name]) => (
            <NavLink
              key={path}
              to={`/kit/${path}`}
              className={({ isActive }) =>
                `min-h-6 border-b-2 leading-[20px] ${isActive ? 'border-ember font-bold' : 'border-transparent text-ink2 hover:text-ink'}`
              }
            >
              {name}
            </NavLink>
          ))}
        </nav>
      </header>
      <Outlet />
    </main>
  )
}
