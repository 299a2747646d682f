import { useAppSelector } from '../../state/store'
import { presentPreset } from '../../state/actions'
import { FindingList } from './FindingList'
import { NetCurve } from './NetCurve'
import { NoiseBudget } from './NoiseBudget'

/** The preset read as an engineer would read it: what will go wrong and what mends it, the net curve, the noise. */
export function ChecksView() {
  const preset = useAppSelector(presentPreset)
  const snapshot = useAppSelector((s) => s.editor.snapshot)
  if (!preset || snapshot === null) return null
  return (
    <main className="grid min-h-0 min-w-0 grid-cols-[minmax(300px,1fr)_minmax(0,1.15fr)_minmax(250px,300px)] overflow-hidden max-[1100px]:grid-cols-[minmax(320px,1fr)_minmax(0,1fr)] max-[1100px]:overflow-y-auto max-[700px]:block">
      <h1 className="sr-only">Checks</h1>
      <FindingList preset={preset} snapshot={snapshot} />
      <NetCurve preset={preset} snapshot={snapshot} />
      <NoiseBudget preset={preset} snapshot={snapshot} />
    </main>
  )
}
