import type { RouteObject } from 'react-router'
import { PresetDesk } from '../desk/PresetDesk'
import { BenchView } from '../views/bench/BenchView'
import { ControlsView } from '../views/controls/ControlsView'
import { LayersView } from '../views/layers/LayersView'
import { ShelfView } from '../views/shelf/ShelfView'
import { SheetView } from '../views/sheet/SheetView'
import { Frame } from './Frame'
import { Lost } from './Lost'

export const routes: RouteObject[] = [
  {
    element: <Frame />,
    errorElement: <Lost />,
    children: [
      { path: '/', element: <ShelfView /> },
      { path: '/shelf', element: <ShelfView /> },
      {
        element: <PresetDesk />,
        children: [
          { path: '/sheet/:id', element: <SheetView /> },
          { path: '/bench/:id', element: <BenchView /> },
          { path: '/controls/:id', element: <ControlsView /> },
          { path: '/layers/:id', element: <LayersView /> },
        ],
      },
      { path: '*', element: <Lost /> },
    ],
  },
]
