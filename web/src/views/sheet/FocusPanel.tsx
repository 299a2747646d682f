import type { KeyboardEvent } from 'react'
import { presentPreset } from '../../state/actions'
import { panelChosen } from '../../state/editor'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { Segments } from '../../ui/Segments'
import { sheetRows } from './rows'
import { PresetPanel } from './PresetPanel'
import { SnapshotPanel } from './SnapshotPanel'
import { StagePanel } from './StagePanel'

const FOCUS_ID = 'focus-panel'

const firstValue = (): HTMLElement | null => document.querySelector(`#${FOCUS_ID} [data-param] input[type=text]`)

/** Enter or Tab in the matrix: on to the first value of the Focus panel. @returns whether there is one */
export function focusFirstParam(): boolean {
  const there = firstValue() !== null
  // the panel may still show the stage before
  requestAnimationFrame(() => firstValue()?.focus())
  return there
}

/** Shift and Tab on the first value leads back to the cell that it belongs to. */
function backToCell(event: KeyboardEvent): void {
  if (event.key !== 'Tab' || !event.shiftKey || event.target !== firstValue()) return
  const cell = document.querySelector<HTMLElement>('.sheet [role=gridcell][tabindex="0"]')
  if (!cell) return
  event.preventDefault()
  cell.focus()
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
      onKeyDown={backToCell}
      className="min-h-0 overflow-y-auto border-l border-ink bg-paper px-4 pt-2 pb-4 small:border-t small:border-l-0"
    >
      <div className="mb-1.5 flex items-center justify-between">
        <Segments
          label="Focus on"
          value={panel}
          options={[
            ['stage', 'Stage'],
            ['snapshot', 'Snapshot'],
            ['preset', 'Preset'],
          ]}
          onChange={(next) => dispatch(panelChosen(next))}
        />
        {panel === 'stage' && row?.kind === 'stage' && <span className="eyebrow">row {row.number}</span>}
      </div>
      {panel === 'preset' ? (
        <PresetPanel preset={preset} />
      ) : panel === 'snapshot' ? (
        <SnapshotPanel preset={preset} />
      ) : row?.stage ? (
        <StagePanel key={row.id} preset={preset} stage={row.stage} row={row} />
      ) : (
        <p className="text-ink2">Add a stage to the sheet to edit it here.</p>
      )}
    </aside>
  )
}
