import { useNavigate } from 'react-router'
import { sentenceOf, useCreatePresetMutation } from '../api/api'
import { presentPreset } from '../state/actions'
import { conflictSettled } from '../state/editor'
import { notified } from '../state/notices'
import { clearPending } from '../state/pending'
import { useAppDispatch, useAppSelector } from '../state/store'
import { PaperDialog } from '../ui/PaperDialog'

/** Two writers on one preset: nothing is overwritten until the player has chosen. */
export function ConflictDialog() {
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const conflict = useAppSelector((s) => s.editor.conflict)
  const mine = useAppSelector(presentPreset)
  const id = useAppSelector((s) => s.editor.id)
  const [create] = useCreatePresetMutation()
  const keepCopy = async () => {
    if (!mine || !id) return
    const answer = await create({ ...mine, name: `${mine.name} (my copy)`.slice(0, 80) })
    if (answer.error) {
      dispatch(notified({ kind: 'warning', text: sentenceOf(answer.error) }))
      return
    }
    clearPending(id)
    void navigate(`/sheet/${answer.data.id}`)
  }
  return (
    <PaperDialog open={conflict !== null} onClose={() => undefined} title="Changed elsewhere">
      <p className="text-ink2">
        Another tab or device stored this preset since you opened it here. Both states are kept until you choose; undo takes the choice
        back.
      </p>
      <div className="mt-4 flex flex-col items-start gap-1">
        <button type="button" className="btn" onClick={() => void keepCopy()}>
          Keep mine as a copy
        </button>
        <button
          type="button"
          className="act"
          onClick={() => {
            if (id) clearPending(id)
            dispatch(conflictSettled({ take: 'theirs' }))
          }}
        >
          Take the other state
        </button>
        <button type="button" className="act" onClick={() => dispatch(conflictSettled({ take: 'mine' }))}>
          Put mine on top; the other one stays in the versions
        </button>
      </div>
    </PaperDialog>
  )
}
