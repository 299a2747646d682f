import { catalogue } from '@fulgor/core/catalogue'
import { stagesOf } from '@fulgor/core/preset'
import { edit, newId, presentPreset } from '../../state/actions'
import { stageChosen } from '../../state/editor'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { PaperDialog } from '../../ui/PaperDialog'

/** The catalogue: a stage goes in after the chosen one. */
export function AddStageDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const dispatch = useAppDispatch()
  const preset = useAppSelector(presentPreset)
  const chosen = useAppSelector((s) => s.editor.stage)
  if (!preset) return null
  const stages = stagesOf(preset.chain)
  const at = stages.findIndex((s) => s.id === chosen)
  const last = stages.at(-1)
  // nothing goes behind the output unless there is none
  const index =
    at < 0 || (at === stages.length - 1 && last?.model === 'output')
      ? Math.max(0, stages.length - (last?.model === 'output' ? 1 : 0))
      : at + 1
  const place = index === 0 ? 'at the top' : `after row ${index}`
  const add = (model: string) => {
    const stage = newId()
    dispatch(edit({ type: 'addStage', stage, model, index }))
    dispatch(stageChosen({ stage, scope: 'base' }))
    onClose()
  }
  return (
    <PaperDialog open={open} onClose={onClose} title={`Add a stage ${place}`} wide>
      <ul>
        {catalogue.map((model, i) => (
          <li key={model.id} className="border-t border-rule">
            <button
              type="button"
              autoFocus={i === 0}
              onClick={() => add(model.id)}
              className="grid w-full grid-cols-[150px_minmax(0,1fr)] gap-4 py-1.5 text-left hover:bg-deep max-[700px]:grid-cols-1 max-[700px]:gap-0"
            >
              <span>
                <b className="block font-semibold">{model.name}</b>
                <span className="eyebrow">{model.family}</span>
              </span>
              <span className="text-ink2">{model.purpose}</span>
            </button>
          </li>
        ))}
      </ul>
    </PaperDialog>
  )
}
