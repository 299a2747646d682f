import type { RouteObject } from 'react-router'
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
      { path: '/sheet/:id', element: <SheetView /> },
      { path: '*', element: <Lost /> },
    ],
  },
]
