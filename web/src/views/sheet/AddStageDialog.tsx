import { useState } from 'react'
import type { StageModel } from '@fulgor/core/catalogue'
import { edit, newId, presentPreset } from '../../state/actions'
import { stageChosen } from '../../state/editor'
import { placeFor } from '../../state/placing'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { PaperDialog } from '../../ui/PaperDialog'
import { Segments } from '../../ui/Segments'
import { Catalogue } from './Catalogue'
import { focusRow } from './focusRow'

/** A stage goes in behind the chosen one, or before it. */
export function AddStageDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const dispatch = useAppDispatch()
  // closed it shows nothing of it
  const preset = useAppSelector(presentPreset, open ? undefined : () => true)
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
