import type { RouteObject } from 'react-router'
import { PresetDesk } from '../desk/PresetDesk'
import { BenchView } from '../views/bench/BenchView'
import { BoardPage } from '../views/controls/BoardPage'
import { ControlsView } from '../views/controls/ControlsView'
import { MidiPage } from '../views/controls/MidiPage'
import { SourcesPage } from '../views/controls/SourcesPage'
import { LayersView } from '../views/layers/LayersView'
import { ShelfView } from '../views/shelf/ShelfView'
import { SheetView } from '../views/sheet/SheetView'
import { WelcomeView } from '../views/welcome/WelcomeView'
import { Frame } from './Frame'
import { Lost } from './Lost'

export const routes: RouteObject[] = [
  {
    element: <Frame />,
    errorElement: <Lost />,
    children: [
      { path: '/', element: <WelcomeView /> },
      { path: '/shelf', element: <ShelfView /> },
      {
        element: <PresetDesk />,
        children: [
          { path: '/sheet/:id', element: <SheetView /> },
          { path: '/bench/:id', element: <BenchView /> },
          {
            path: '/controls/:id',
            element: <ControlsView />,
            children: [
              { index: true, element: <SourcesPage /> },
              { path: 'board', element: <BoardPage /> },
              { path: 'midi', element: <MidiPage /> },
            ],
          },
          { path: '/layers/:id', element: <LayersView /> },
        ],
      },
      { path: '*', element: <Lost /> },
    ],
  },
]
