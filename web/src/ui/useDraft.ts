import { useRef, useState, type FocusEvent, type KeyboardEvent } from 'react'

type Field = HTMLInputElement | HTMLTextAreaElement

/**
 * Text that is edited in place. Enter or leaving takes it; a text that cannot be taken stays, with the reason, until it is right or put
 * back. Escape puts back what stood there and stays in the field; Escape once more leaves it for `onLeave`.
 * @param onCommit answers with the reason when the text cannot be taken
 */
export function useDraft(value: string, onCommit: (text: string) => string | null, onLeave?: () => void, multiline = false) {
  const [draft, setDraft] = useState<string | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  // read by handlers that run before the page is drawn again
  const latest = useRef<string | null>(null)
  const hold = (text: string | null) => {
    latest.current = text
    setDraft(text)
  }
  const putBack = () => {
    hold(null)
    setProblem(null)
  }
  const take = (): boolean => {
    const text = latest.current
    if (text === null || text === value) {
      putBack()
      return true
    }
    const reason = onCommit(text)
    setProblem(reason)
    if (reason === null) hold(null)
    return reason === null
  }
  const onKeyDown = (event: KeyboardEvent<Field>) => {
    const field = event.currentTarget
    if (event.key === 'Escape') {
      const changed = latest.current !== null && latest.current !== value
      if (!changed && problem === null && !onLeave) return
      event.preventDefault()
      event.stopPropagation()
      putBack()
      if (!changed && problem === null) onLeave?.()
      else requestAnimationFrame(() => field.select())
    } else if (event.key === 'Enter' && !multiline) {
      take()
      requestAnimationFrame(() => field.select())
    }
  }
  return {
    draft,
    problem,
    props: {
      value: draft ?? value,
      'aria-invalid': problem !== null,
      // the keys of undo belong to the text while it is being changed, to the preset before and after
      'data-dirty': draft !== null && draft !== value,
      onFocus: (event: FocusEvent<Field>) => {
        if (!multiline) event.currentTarget.select()
      },
      onBlur: () => void take(),
      onChange: (event: { currentTarget: { value: string } }) => {
        hold(event.currentTarget.value)
        setProblem(null)
      },
      onKeyDown,
    },
  }
}
