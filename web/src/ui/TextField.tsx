import { useState, type KeyboardEvent } from 'react'

interface Props {
  value: string
  label: string
  onCommit: (text: string) => string | null
  className?: string
  title?: string
  multiline?: boolean
  maxLength?: number
  inputMode?: 'decimal' | 'text'
}

/**
 * Text that is edited in place: Enter or leaving takes it, Escape puts it back. `onCommit` answers with the reason when it cannot be
 * taken; then the field keeps what was typed and says so.
 */
export function TextField({ value, label, onCommit, className = '', title, multiline, maxLength, inputMode }: Props) {
  const [draft, setDraft] = useState<string | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const finish = (text: string | null) => {
    if (text === null || text === value) {
      setDraft(null)
      setProblem(null)
      return
    }
    const reason = onCommit(text)
    setProblem(reason)
    if (reason === null) setDraft(null)
  }
  const cancel = () => {
    setDraft(null)
    setProblem(null)
  }
  const common = {
    'aria-label': label,
    'aria-invalid': problem !== null,
    value: draft ?? value,
    maxLength,
    className,
    title,
    onFocus: (event: { currentTarget: HTMLInputElement | HTMLTextAreaElement }) => {
      setDraft(value)
      if (!multiline) event.currentTarget.select()
    },
    onBlur: () => finish(draft),
    onChange: (event: { currentTarget: { value: string } }) => setDraft(event.currentTarget.value),
    onKeyDown: (event: KeyboardEvent<HTMLInputElement | HTMLTextAreaElement>) => {
      if (event.key === 'Escape') {
        cancel()
        event.currentTarget.blur()
      } else if (event.key === 'Enter' && !multiline) {
        finish(draft)
        event.currentTarget.select()
      }
    },
  }
  return (
    <>
      {multiline ? (
        <textarea rows={3} {...common} />
      ) : (
        <input type="text" inputMode={inputMode} spellCheck={false} {...common} onClick={(event) => event.currentTarget.select()} />
      )}
      {problem !== null && (
        <span role="alert" className="block text-label font-semibold text-ember">
          {problem}
        </span>
      )}
    </>
  )
}
