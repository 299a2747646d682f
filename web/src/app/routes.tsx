import { Navigate, type RouteObject } from 'react-router'
import { Frame } from './Frame'
import { Lost } from './Lost'

/** The views, each fetched when it is first gone to. */
const views = {
  desk: async () => ({ Component: (await import('../desk/PresetDesk')).PresetDesk }),
  welcome: async () => ({ Component: (await import('../views/welcome/WelcomeView')).WelcomeView }),
  shelf: async () => ({ Component: (await import('../views/shelf/ShelfView')).ShelfView }),
  sheet: async () => ({ Component: (await import('../views/sheet/SheetView')).SheetView }),
  bench: async () => ({ Component: (await import('../views/bench/BenchView')).BenchView }),
  controls: async () => ({ Component: (await import('../views/controls/ControlsView')).ControlsView }),
  sources: async () => ({ Component: (await import('../views/controls/SourcesPage')).SourcesPage }),
  board: async () => ({ Component: (await import('../views/controls/BoardPage')).BoardPage }),
  midi: async () => ({ Component: (await import('../views/controls/MidiPage')).MidiPage }),
  checks: async () => ({ Component: (await import('../views/checks/ChecksView')).ChecksView }),
  kit: async () => ({ Component: (await import('../views/kit/KitView')).KitView }),
  places: async () => ({ Component: (await import('../views/kit/PlacesPage')).PlacesPage }),
  guitars: async () => ({ Component: (await import('../views/kit/GuitarsPage')).GuitarsPage }),
  devices: async () => ({ Component: (await import('../views/kit/DevicesPage')).DevicesPage }),
  riffs: async () => ({ Component: (await import('../views/kit/RecordingsPage')).RiffsPage }),
  backings: async () => ({ Component: (await import('../views/kit/RecordingsPage')).BackingsPage }),
  references: async () => ({ Component: (await import('../views/kit/RecordingsPage')).ReferencesPage }),
  match: async () => ({ Component: (await import('../views/match/MatchView')).MatchView }),
  playOn: async () => ({ Component: (await import('../views/playOn/PlayOnView')).PlayOnView }),
  brief: async () => ({ Component: (await import('../views/brief/BriefView')).BriefView }),
  stage: async () => ({ Component: (await import('../views/stage/StageView')).StageView }),
  set: async () => ({ Component: (await import('../views/set/SetView')).SetView }),
  layers: async () => ({ Component: (await import('../views/layers/LayersView')).LayersView }),
}

/** Fetches what is not there yet while the page has nothing else to do, so that a view opens at once and on bad days too. */
export async function fetchViews(): Promise<void> {
  for (const view of Object.values(views)) await view()
}

export const routes: RouteObject[] = [
  { path: '/stage/:id', lazy: views.stage, errorElement: <Lost />, hydrateFallbackElement: <p className="p-4 text-ink2">Opening …</p> },
  {
    element: <Frame />,
    errorElement: <Lost />,
    hydrateFallbackElement: <p className="p-4 text-ink2">Opening …</p>,
    children: [
      { path: '/', lazy: views.welcome },
      { path: '/shelf', lazy: views.shelf },
      { path: '/brief/:id?', lazy: views.brief },
      { path: '/set/:id?', lazy: views.set },
      {
        path: '/kit',
        lazy: views.kit,
        children: [
          { index: true, element: <Navigate to="/kit/guitars" replace /> },
          { path: 'guitars/:id?', lazy: views.guitars },
          { path: 'places/:id?', lazy: views.places },
          { path: 'devices/:id?', lazy: views.devices },
          { path: 'riffs/:id?', lazy: views.riffs },
          { path: 'backings/:id?', lazy: views.backings },
          { path: 'references/:id?', lazy: views.references },
        ],
      },
      {
        lazy: views.desk,
        children: [
          { path: '/sheet/:id', lazy: views.sheet },
          { path: '/bench/:id', lazy: views.bench },
          {
            path: '/controls/:id',
            lazy: views.controls,
            children: [
              { index: true, lazy: views.sources },
              { path: 'board', lazy: views.board },
              { path: 'midi', lazy: views.midi },
            ],
          },
          { path: '/layers/:id', lazy: views.layers },
          { path: '/play-on/:id', lazy: views.playOn },
          { path: '/checks/:id', lazy: views.checks },
          { path: '/match/:id', lazy: views.match },
        ],
      },
      { path: '*', element: <Lost /> },
    ],
  },
]
