import type { ReactNode } from 'react'
import { useNavigate } from 'react-router'
import { NavLink } from 'react-router'
import { showFields, type Show } from '@fulgor/core/show'
import { sentenceOf, useDeleteShowMutation } from '../api/api'
import { notified } from '../state/notices'
import { useAppDispatch } from '../state/store'
import type { KitDocument } from '../state/useKitDocument'
import { Explain } from '../ui/Explain'
import { StoringProblem } from '../ui/StoringProblem'
import { TextField } from '../ui/TextField'
import { ShowMenu } from './ShowPick'

interface Props {
  id: string
  to: '/brief' | '/set'
  term: 'brief' | 'set'
  show: Show
  editing: KitDocument<Show>
  /** What stands beside the name. */
  told: ReactNode
  children?: ReactNode
}

/** Name of the show, how it stands with the server, undo and redo, and what the view adds. */
export function ShowHead({ id, to, term, show, editing, told, children }: Props) {
  const { standing, canUndo, canRedo, undo, redo, settle, change } = editing
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const [remove] = useDeleteShowMutation()
  const go = async () => {
    const answer = await remove(id)
    if (answer.error !== undefined) {
      dispatch(notified({ kind: 'warning', text: `Not deleted: ${sentenceOf(answer.error)}` }))
      return
    }
    dispatch(notified({ kind: 'note', text: `“${show.name}” is in the bin.`, undo: { type: 'restoreKit', kind: 'show', id } }))
    void navigate(to)
  }
  return (
    <header
      className="flex min-h-[var(--top-h)] flex-wrap items-center gap-x-4 gap-y-0.5 border-b border-rule2 px-4"
      data-sync={standing.sync}
    >
      <h1 className="flex items-baseline gap-1.5 text-title">
        <span className="sr-only">{term === 'brief' ? 'Brief' : 'Set'} of </span>
        <TextField
          label="Name of the show"
          value={show.name}
          maxLength={showFields.name.most}
          className="max-w-[300px] [field-sizing:content] min-h-6 border-b border-transparent bg-transparent font-head text-preset font-bold outline-none [font-stretch:var(--head-width)] hover:border-control focus:border-ink"
          onCommit={(text) => {
            if (text.trim() === '') return 'A show needs a name.'
            change({ ...show, name: text.trim() })
            return null
          }}
        />
        <Explain term={term} />
      </h1>
      <ShowMenu to={to} />
      <span className="flex gap-2.5 text-[12px]">
        <NavLink to={`/brief/${id}`} className={({ isActive }) => (isActive ? 'font-bold' : 'act font-normal')}>
          Brief
        </NavLink>
        <NavLink to={`/set/${id}`} className={({ isActive }) => (isActive ? 'font-bold' : 'act font-normal')}>
          Set
        </NavLink>
      </span>
      <span className="text-[11.5px] text-ink2">{told}</span>
      <span className="text-[11.5px] text-ink2" role="status">
        {standing.sync === 'saved' ? 'Saved' : standing.sync === 'saving' ? 'Saving …' : 'Kept here'}
      </span>
      <span className="ml-auto flex items-center gap-3">
        <button type="button" className="act" disabled={!canUndo} onClick={undo} title="Ctrl/Cmd Z">
          Undo
        </button>
        <button type="button" className="act" disabled={!canRedo} onClick={redo} title="Ctrl/Cmd Shift Z">
          Redo
        </button>
        <button type="button" className="act font-normal" onClick={() => void go()}>
          Delete
        </button>
        {children}
      </span>
      <StoringProblem problem={standing.problem} elsewhere={standing.elsewhere} className="basis-full py-1" onSettle={settle} />
    </header>
  )
}
