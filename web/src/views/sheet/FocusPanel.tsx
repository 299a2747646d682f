import { presentPreset } from '../../state/actions'
import { panelChosen } from '../../state/editor'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { Segments } from '../../ui/Segments'
import { sheetRows } from './rows'
import { SnapshotPanel } from './SnapshotPanel'
import { StagePanel } from './StagePanel'

const FOCUS_ID = 'focus-panel'

/** Enter in the matrix: on to the first value of the Focus panel. */
export function focusFirstParam(): void {
  requestAnimationFrame(() => document.querySelector<HTMLElement>(`#${FOCUS_ID} [data-param] input[type=text]`)?.focus())
}

/** The chosen stage, or the lit snapshot, in full. */
export function FocusPanel() {
  const dispatch = useAppDispatch()
  const preset = useAppSelector(presentPreset)
  const stageId = useAppSelector((s) => s.editor.stage)
  const panel = useAppSelector((s) => s.editor.panel)
  if (!preset) return null
  const row = sheetRows(preset.chain).find((r) => r.id === stageId)
  return (
    <aside
      id={FOCUS_ID}
      aria-label="Focus"
      className="min-h-0 overflow-y-auto border-l border-ink bg-paper px-4 pt-2 pb-4 small:border-t small:border-l-0"
    >
      <div className="mb-1.5 flex items-center justify-between">
        <Segments
          label="Focus on"
          value={panel}
          options={[
            ['stage', 'Stage'],
            ['snapshot', 'Snapshot'],
          ]}
          onChange={(next) => dispatch(panelChosen(next))}
        />
        {panel === 'stage' && row?.kind === 'stage' && <span className="eyebrow">row {row.number}</span>}
      </div>
      {panel === 'snapshot' ? (
        <SnapshotPanel preset={preset} />
      ) : row?.stage ? (
        <StagePanel key={row.id} preset={preset} stage={row.stage} row={row} />
      ) : (
        <p className="text-ink2">Add a stage to the sheet to edit it here.</p>
      )}
    </aside>
  )
}
