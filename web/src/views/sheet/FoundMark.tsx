import { shallowEqual } from 'react-redux'
import { Link } from 'react-router'
import { foundAt } from '../../state/findings'
import { useAppSelector } from '../../state/store'
import { NoteMark, WarningMark } from '../../ui/marks'

/** What is found at a row: its number, its sentence to point at, and the way to it. */
export function FoundMark({ stage }: { stage: string }) {
  const id = useAppSelector((s) => s.editor.id)
  const found = useAppSelector((s) => {
    const at = foundAt(s)[stage]
    return at ? { number: at.number, severity: at.finding.severity, words: `${at.finding.figure} ${at.finding.reason}` } : null
  }, shallowEqual)
  if (!found || id === null) return null
  return (
    <Link
      to={`/checks/${id}`}
      tabIndex={-1}
      title={found.words}
      aria-label={`Finding ${found.number}: ${found.words}`}
      className="num flex-none text-axis text-ink hover:text-ember"
      onClick={(event) => event.stopPropagation()}
    >
      {found.severity === 'warning' ? <WarningMark /> : <NoteMark />}
      {found.number}
    </Link>
  )
}
