import type { ReactNode } from 'react'
import { Link } from 'react-router'
import { WarningMark } from '../../ui/marks'
import { StoringProblem } from '../../ui/StoringProblem'
import { TextField } from '../../ui/TextField'
import type { KitDocument } from '../../state/useKitDocument'

interface Props {
  /** “guitar”, “place”. */
  kind: string
  name: string
  most: number
  editing: Omit<KitDocument<unknown>, 'document' | 'change'>
  onName: (name: string) => void
  /** What takes it away. */
  children: ReactNode
}

/** Name of a thing of the Kit, how it stands with the server, undo and redo. */
export function KitHead({ kind, name, most, editing, onName, children }: Props) {
  const { standing, canUndo, canRedo, undo, redo, settle } = editing
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-0.5">
        <TextField
          label={`Name of the ${kind}`}
          value={name}
          maxLength={most}
          className="max-w-[340px] [field-sizing:content] border-b border-transparent bg-transparent font-head text-preset font-bold outline-none [font-stretch:var(--head-width)] hover:border-control focus:border-ink"
          onCommit={(text) => {
            if (text.trim() === '') return `A ${kind} needs a name.`
            onName(text.trim())
            return null
          }}
        />
        <span className="text-[11.5px] text-ink2" role="status">
          {standing.sync === 'saved' ? 'Saved' : standing.sync === 'saving' ? 'Saving …' : 'Kept here'}
        </span>
        <span className="ml-auto flex gap-3">
          <button type="button" className="act" disabled={!canUndo} onClick={undo} title="Ctrl/Cmd Z">
            Undo
          </button>
          <button type="button" className="act" disabled={!canRedo} onClick={redo} title="Ctrl/Cmd Shift Z">
            Redo
          </button>
          {children}
        </span>
      </div>
      <StoringProblem problem={standing.problem} elsewhere={standing.elsewhere} className="my-1" onSettle={settle} />
    </>
  )
}

/** What stands where a thing of the Kit would, while it is fetched or where it is none. */
export function NotThere({ missing, to, others }: { missing: string | null; to: string; others: string }) {
  if (missing === null) return <p className="px-4 py-3 text-ink3">Opening …</p>
  return (
    <p role="alert" className="px-4 py-3">
      <WarningMark /> {missing}{' '}
      <Link className="act" to={to}>
        {others}
      </Link>
    </p>
  )
}
