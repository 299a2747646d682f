import { useNavigate } from 'react-router'
import { sentenceOf, useCreatePresetMutation } from '../api/api'
import { presentPreset } from '../state/actions'
import { conflictSettled } from '../state/editor'
import { notified } from '../state/notices'
import { clearPending } from '../state/pending'
import { useAppDispatch, useAppSelector } from '../state/store'
import { ConflictDialog } from '../ui/ConflictDialog'

/** The open preset was stored elsewhere too. */
export function PresetConflict() {
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const conflict = useAppSelector((s) => s.editor.conflict)
  const id = useAppSelector((s) => s.editor.id)
  const [create] = useCreatePresetMutation()
  const keepCopy = async () => {
    const mine = dispatch((_, getState) => presentPreset(getState()))
    if (!mine || !id) return
    const answer = await create({ ...mine, name: `${mine.name} (my copy)`.slice(0, 80) })
    if (answer.error) {
      dispatch(notified({ kind: 'warning', text: sentenceOf(answer.error) }))
      return
    }
    clearPending(id)
    void navigate(`/sheet/${answer.data.id}`)
  }
  const takeTheirs = () => {
    if (id) clearPending(id)
    dispatch(conflictSettled({ take: 'theirs' }))
  }
  return (
    <ConflictDialog
      kind="preset"
      open={conflict !== null}
      onCopy={() => void keepCopy()}
      onTheirs={takeTheirs}
      onMine={() => dispatch(conflictSettled({ take: 'mine' }))}
    />
  )
}
