import { WarningMark } from './marks'

interface Props {
  /** Why it could not be stored; null while it can. */
  problem: string | null
  /** It was changed in another tab, or is gone. */
  elsewhere: boolean
  className: string
  onSettle: (mine: boolean) => void
}

/** Why a document could not be stored, and what can be done about it. */
export function StoringProblem({ problem, elsewhere, className, onSettle }: Props) {
  if (problem === null) return null
  return (
    <p role="alert" className={`font-semibold ${className}`}>
      <WarningMark /> {problem}{' '}
      {elsewhere && (
        <>
          <button type="button" className="act" onClick={() => onSettle(false)}>
            Take what is stored
          </button>{' '}
          <button type="button" className="act" onClick={() => onSettle(true)}>
            Store this over it
          </button>
        </>
      )}
    </p>
  )
}
