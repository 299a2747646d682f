import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { Provider } from 'react-redux'
import { createBrowserRouter } from 'react-router'
import { RouterProvider } from 'react-router/dom'
import { fetchViews, routes } from './app/routes'
import { handClock } from './state/handClock'
import { store } from './state/store'
import { keepForBadDays } from './offline/register'
import { applyTheme, followSystem, storedTheme } from './theme/theme'
import './theme/app.css'

applyTheme(storedTheme(), false)
followSystem()
keepForBadDays()
handClock.watch(window)
const root = document.getElementById('root')
if (!root) throw new Error('index.html has no #root.')

createRoot(root).render(
  <StrictMode>
    <Provider store={store}>
      <RouterProvider router={createBrowserRouter(routes)} />
    </Provider>
  </StrictMode>,
)

// once the first view has its figures
setTimeout(() => void fetchViews().catch(() => undefined), 6_000)
