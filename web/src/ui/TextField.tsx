import { FieldNote } from './FieldNote'
import { useDraft } from './useDraft'

interface Props {
  value: string
  label: string
  onCommit: (text: string) => string | null
  className?: string
  title?: string
  multiline?: boolean
  maxLength?: number
  /** Where Escape leads when there is nothing to put back. */
  onLeave?: () => void
}

/** Text that is edited in place: Enter or leaving takes it, Escape puts it back; a refused one stays and says why. */
export function TextField({ value, label, onCommit, className = '', title, multiline, maxLength, onLeave }: Props) {
  const { problem, props } = useDraft(value, onCommit, onLeave, multiline)
  const common = { 'aria-label': label, maxLength, className, title, ...props }
  return (
    <span className={`relative ${multiline || className.includes('w-full') ? 'block' : 'inline-block'} min-w-0`}>
      {multiline ? (
        <textarea rows={3} {...common} />
      ) : (
        <input type="text" spellCheck={false} {...common} onClick={(event) => event.currentTarget.select()} />
      )}
      <FieldNote problem={problem} />
    </span>
  )
}
