import { useState } from 'react'
import type { StageModel } from '@fulgor/core/catalogue'
import { findLane, placeOf, type Place, type Preset } from '@fulgor/core/preset'
import { edit, newId, presentPreset } from '../../state/actions'
import { stageChosen } from '../../state/editor'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { PaperDialog } from '../../ui/PaperDialog'
import { Segments } from '../../ui/Segments'
import { Catalogue } from './Catalogue'
import { sheetRows } from './rows'

/** Where a new stage goes: behind the chosen one, first in a chosen lane, and never behind the output. */
function placeFor(preset: Preset, chosen: string | null): { place: Place; where: string; row: number | null } {
  const lane = chosen ? findLane(preset, chosen) : undefined
  if (lane && chosen)
    return { place: { lane: chosen, index: 0 }, where: `at the top of lane ${lane.split.lanes.indexOf(lane.lane) + 1}`, row: null }
  const rows = sheetRows(preset.chain)
  const row = rows.find((r) => r.id === chosen)
  const last = preset.chain.at(-1)
  const output = last?.kind === 'stage' && last.model === 'output'
  const at = chosen ? placeOf(preset, chosen) : undefined
  if (!at || (output && chosen === last.id)) {
    const index = preset.chain.length - (output ? 1 : 0)
    return { place: { lane: null, index }, where: output ? 'before the output' : 'at the end', row: null }
  }
  return {
    place: { lane: at.lane, index: at.index + 1 },
    where: `after row ${row?.number ?? at.index + 1}`,
    row: row?.number ?? at.index + 1,
  }
}

/** A stage goes in behind the chosen one, or before it. */
export function AddStageDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const dispatch = useAppDispatch()
  const preset = useAppSelector(presentPreset)
  const chosen = useAppSelector((s) => s.editor.stage)
  const [side, setSide] = useState<'after' | 'before'>('after')
  if (!preset) return null
  const { place, where, row } = placeFor(preset, chosen)
  const before = side === 'before' && row !== null
  const close = () => {
    onClose()
    setSide('after')
  }
  const add = (model: StageModel) => {
    const stage = newId()
    dispatch(edit({ type: 'addStage', stage, model: model.id, ...place, index: place.index - (before ? 1 : 0) }))
    dispatch(stageChosen({ stage, fresh: true }))
    close()
    focusRow(stage)
  }
  return (
    <PaperDialog open={open} onClose={close} title={`Add a stage ${before ? `before row ${row}` : where}`} wide>
      <Catalogue verb="adds" onTake={add}>
        {row !== null && (
          <span className="ml-auto">
            <Segments
              label="Where"
              value={side}
              options={[
                ['before', `before row ${row}`],
                ['after', `after row ${row}`],
              ]}
              onChange={setSide}
            />
          </span>
        )}
      </Catalogue>
    </PaperDialog>
  )
}

/** Once the dialog is gone and the row is there. */
export function focusRow(stage: string): void {
  const look = (tries: number) => {
    const cell = document.querySelector<HTMLElement>(`[data-stage="${CSS.escape(stage)}"] [data-cell]`)
    if (cell && !document.querySelector('[role=dialog]')) cell.focus()
    else if (tries > 0) setTimeout(() => look(tries - 1), 40)
  }
  look(20)
}
