import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { Provider } from 'react-redux'
import { createBrowserRouter } from 'react-router'
import { RouterProvider } from 'react-router/dom'
import { startMeasuring } from './audio/measuring'
import { Player } from './audio/player'
import { fetchViews, routes } from './app/routes'
import { SessionContext } from './audio/session'
import { startBoard } from './state/board'
import { startControls } from './state/controls'
import { startAutosave } from './state/autosave'
import { renderers } from './threads/crews'
import { listen, store } from './state/store'
import { keepForBadDays } from './offline/register'
import { startKeepingUndo } from './state/undoStore'
import { applyTheme, followSystem, storedTheme } from './theme/theme'
import { PortalGroup } from './ui/PortalGroup'
import './theme/app.css'

applyTheme(storedTheme(), false)
followSystem()
startMeasuring(listen, renderers)
startControls(listen)
startBoard(listen)
const { save } = startAutosave(listen, store)
startKeepingUndo(listen, () => store.getState())
keepForBadDays()
const session = { player: new Player(store, listen), save }
const root = document.getElementById('root')
const overlays = document.getElementById('overlays')
if (!root || !overlays) throw new Error('index.html has no #root or no #overlays.')

// the browser tests and the bench ask whether sound really comes out, and when an edit was taken up
Object.assign(window, { fulgorHeardPeak: () => session.player.heardPeak(), fulgorAppliedAt: () => session.player.appliedAt })

createRoot(root).render(
  <StrictMode>
    <Provider store={store}>
      <SessionContext value={session}>
        <PortalGroup target={{ current: overlays }}>
          <RouterProvider router={createBrowserRouter(routes)} />
        </PortalGroup>
      </SessionContext>
    </Provider>
  </StrictMode>,
)

// once the first view has its figures
setTimeout(() => void fetchViews().catch(() => undefined), 6_000)
