import { PaperDialog } from './PaperDialog'

interface Props {
  /** What was changed, in the interface's word: "preset". */
  kind: string
  open: boolean
  onCopy: () => void
  onTheirs: () => void
  onMine: () => void
}

/** Two writers on one document of any kind: nothing is overwritten until the player has chosen. */
export function ConflictDialog({ kind, open, onCopy, onTheirs, onMine }: Props) {
  return (
    <PaperDialog open={open} onClose={() => undefined} title="Changed elsewhere">
      <p className="text-ink2">
        Another tab or device stored this {kind} since you opened it here. Both states are kept until you choose; undo takes the choice
        back.
      </p>
      <div className="mt-4 flex flex-col items-start gap-1">
        <button type="button" className="btn" onClick={onCopy}>
          Keep mine as a copy
        </button>
        <button type="button" className="act" onClick={onTheirs}>
          Take the other state
        </button>
        <button type="button" className="act" onClick={onMine}>
          Put mine on top; the other one stays in the versions
        </button>
      </div>
    </PaperDialog>
  )
}
