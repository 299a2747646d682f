import { FocusPanel } from './FocusPanel'
import { Matrix } from './Matrix'

/** The preset on one page like a score: signal down the rows, snapshots across the columns. */
export function SheetView() {
  return (
    <main className="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)_var(--focus-w)] small:block">
      <Matrix />
      <FocusPanel />
    </main>
  )
}
