import { Suspense, useCallback, useEffect, useState } from 'react'
import { Link, NavLink, Outlet, useLocation } from 'react-router'
import type { PresetSummary } from '@fulgor/core/api'
import { usePresetsQuery } from '../api/api'
import { useAppSelector } from '../state/store'
import { applyTheme, storedTheme, type Theme } from '../theme/theme'
import { isTyping } from '../ui/isTyping'
import { lazyPart } from '../ui/lazyPart'
import { AwayLine } from './AwayLine'
import { startTour } from '../desk/startTour'
import { Notices } from './Notices'
import { singleKeysOn } from '../ui/singleKeys'
import { browserStorage } from '../storage/storage'

const LAST = 'fulgor.lastSheet'

const Finder = lazyPart(async () => (await import('./Finder')).Finder)
const KeysDialog = lazyPart(async () => (await import('./KeysDialog')).KeysDialog)

/** Open or not, and whether it ever was: what is not asked for is not fetched. */
function useOpened() {
  const [open, setOpen] = useState<boolean | null>(null)
  return { open: open === true, wanted: open !== null, setOpen }
}

/** Navigation down the left, the view beside it; below 700 px the navigation lies on top. */
export function Frame() {
  const { pathname, search } = useLocation()
  const openId = useAppSelector((s) => s.editor.id)
  const finder = useOpened()
  const keys = useOpened()
  const { setOpen: setFinder } = finder
  const { setOpen: setKeys } = keys
  const showKeys = useCallback(() => setKeys(true), [setKeys])
  useEffect(() => {
    if (/^\/(sheet|bench|layers|controls|checks|match|play-on)\//.test(pathname) && openId)
      browserStorage.write(LAST, `/sheet/${openId}${search}`)
  }, [pathname, search, openId])
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
        event.preventDefault()
        setFinder((now) => !now)
      } else if (event.key === '?' && singleKeysOn() && !isTyping(event.target)) setKeys(true)
    }
    addEventListener('keydown', onKey)
    return () => removeEventListener('keydown', onKey)
  }, [setFinder, setKeys])
  const open = /^\/(?:sheet|bench|layers|controls|checks|match|play-on)(\/[^/]+)(?:\/(?:board|midi))?$/.exec(pathname)?.[1]
  const { data } = usePresetsQuery({ sort: 'updated' })
  const there = data?.items ?? null
  const last = browserStorage.read(LAST)
  // a long shelf is not here whole
  const kept =
    last !== null && (there === null || data?.total !== there.length || there.some((p) => last.startsWith(`/sheet/${p.id}`))) ? last : null
  const [first] = there ?? []
  // with an empty shelf no link may lead to a preset that is not there
  const sheet = open ? `/sheet${open}${search}` : (kept ?? ((first as PresetSummary | undefined) ? `/sheet/${first.id}` : '/'))
  const bench = sheet.replace('/sheet', '/bench')
  const controls = sheet.replace('/sheet', '/controls')
  const match = sheet.replace('/sheet', '/match')
  return (
    <div className="grid h-full grid-cols-[var(--nav-w)_minmax(0,1fr)] max-[700px]:grid-cols-1 max-[700px]:grid-rows-[auto_minmax(0,1fr)]">
      <a
        href="#view"
        className="fixed -top-20 left-2 z-50 border border-ink bg-paper px-3 py-1.5 font-semibold focus:top-2"
        onClick={(event) => {
          event.preventDefault()
          skip()
        }}
      >
        Past the views
      </a>
      <nav
        aria-label="Views"
        className="flex flex-col border-r border-rule2 pb-3 max-[700px]:flex-row max-[700px]:items-center max-[700px]:overflow-x-auto max-[700px]:border-r-0 max-[700px]:border-b max-[700px]:pb-0"
      >
        <div className="mark relative flex h-[var(--top-h)] items-center border-b border-rule2 pl-3.5 font-head text-[19px] font-extrabold [font-stretch:82%] max-[700px]:h-10 max-[700px]:border-0 max-[700px]:pr-2">
          <span className="absolute left-0 h-[17px] w-[5px] bg-[linear-gradient(var(--trace-dark),var(--trace-mid)_55%,var(--trace-bright))]" />
          <Link to="/" title="First page">
            Fulgor
          </Link>
        </div>
        <div className="flex flex-col pt-2.5 max-[700px]:flex-row max-[700px]:pt-0">
          <ViewLink to="/brief" active={pathname.startsWith('/brief')}>
            Brief
          </ViewLink>
          <ViewLink to={sheet} active={/^\/(sheet|layers|checks|play-on)/.test(pathname)}>
            Sheet
          </ViewLink>
          <ViewLink to={bench} active={pathname.startsWith('/bench')}>
            Mic bench
          </ViewLink>
          <ViewLink to={controls} active={pathname.startsWith('/controls')}>
            Controls
          </ViewLink>
          <ViewLink to={match} active={pathname.startsWith('/match')}>
            Match
          </ViewLink>
          <ViewLink to="/set" active={pathname.startsWith('/set')}>
            Set
          </ViewLink>
          <ViewLink to="/shelf" active={pathname === '/shelf'}>
            Shelf
          </ViewLink>
          <ViewLink to="/kit/guitars" active={pathname.startsWith('/kit')}>
            Kit
          </ViewLink>
        </div>
        <div className="mt-auto border-t border-rule pt-1.5 max-[700px]:mt-0 max-[700px]:ml-auto max-[700px]:flex max-[700px]:border-0 max-[700px]:pt-0">
          <ThemeSwitch />
          <button type="button" className={FOOT_LINK} onClick={showKeys}>
            Keys
          </button>
          {open !== undefined && (
            <button type="button" className={FOOT_LINK} onClick={startTour}>
              Tour
            </button>
          )}
        </div>
      </nav>
      <div className="flex min-h-0 min-w-0 flex-col *:last:min-h-0 *:last:flex-1" id="view" tabIndex={-1}>
        <AwayLine />
        <Outlet />
      </div>
      <Notices />
      <Suspense>
        {/* with a preset open it stands ready: what is typed right after its key is for it */}
        {(finder.wanted || openId !== null) && <Finder open={finder.open} onClose={() => setFinder(false)} onKeys={showKeys} />}
      </Suspense>
      <Suspense>{keys.wanted && <KeysDialog open={keys.open} onClose={() => setKeys(false)} />}</Suspense>
    </div>
  )
}

/** To the sheet's chosen cell, or else to the first thing of the view that takes the focus. */
function skip(): void {
  const view = document.getElementById('view')
  const cell = view?.querySelector<HTMLElement>('[role=gridcell][tabindex="0"]')
  ;(cell ?? view?.querySelector<HTMLElement>('button:enabled, a[href], input:enabled, [tabindex="0"]') ?? view)?.focus()
}

const FOOT_LINK = 'block min-h-6 py-0.5 pl-3.5 text-[12px] text-ink2 hover:text-ink max-[700px]:pr-2 max-[700px]:pl-2'

function ViewLink({ to, active, children }: { to: string; active: boolean; children: string }) {
  return (
    <NavLink
      to={to}
      aria-current={active ? 'page' : undefined}
      className={`relative py-[7px] pl-3.5 text-name whitespace-nowrap hover:text-ink max-[700px]:px-1.5 ${active ? 'font-bold text-ink' : 'text-ink2'}`}
    >
      {active && (
        <span className="absolute top-[5px] bottom-[5px] left-0 w-[3px] bg-ember max-[700px]:top-auto max-[700px]:right-1.5 max-[700px]:bottom-1 max-[700px]:left-1.5 max-[700px]:h-[2px] max-[700px]:w-auto" />
      )}
      {children}
    </NavLink>
  )
}

function ThemeSwitch() {
  const [theme, setTheme] = useState<Theme>(storedTheme)
  const choose = (next: Theme) => {
    applyTheme(next)
    setTheme(next)
  }
  return (['paper', 'dusk'] as const).map((name) => (
    <button
      key={name}
      type="button"
      aria-pressed={theme === name}
      title={name === 'paper' ? 'Light, for the desk' : 'Dark and large, to be read from a metre away'}
      onClick={() => choose(name)}
      className={`block min-h-6 py-0.5 pl-3.5 text-left max-[700px]:pl-2 text-[12px] ${theme === name ? 'font-semibold text-ink underline underline-offset-[3px]' : 'text-ink2 hover:text-ink'}`}
    >
      {name === 'paper' ? 'Paper' : 'Dusk'}
    </button>
  ))
}
