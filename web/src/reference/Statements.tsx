import { limitsOf, statementsOf, type Statement } from '@fulgor/core/match'
import { Explain } from '../ui/Explain'
import { WarningMark } from '../ui/marks'
import type { UsedReference } from './useReference'

/** What the marked stretches are: a figure, words, and how sure it is. */
export function Statements({ of: { recording, inspection } }: { of: UsedReference }) {
  const { answer, problem, fresh } = inspection
  return (
    <section aria-label="What the recording is" className="text-[12px]" data-inspected={fresh && answer?.report ? 'done' : 'working'}>
      <div className="flex items-baseline justify-between text-ink2">
        <h2 className="text-[12px] font-normal">
          What the recording is <Explain term="reference" />
        </h2>
        <span>sure</span>
      </div>
      {problem !== null && <p role="alert">{problem}</p>}
      {answer?.reason && (
        <p role="alert" className="border-t border-rule py-1 font-semibold">
          <WarningMark /> {recording?.name} {answer.reason} Mark another stretch.
        </p>
      )}
      {!answer && problem === null && <p className="border-t border-rule py-1 text-ink2">Listening to it …</p>}
      {answer?.report && (
        <>
          <ul className={fresh ? '' : 'italic'} aria-busy={!fresh}>
            {statementsOf(answer.report).map((s) => (
              <Line key={s.name} statement={s} />
            ))}
          </ul>
          {limitsOf(answer.report).map((words) => (
            <p key={words} className="border-t border-rule py-0.5 text-ink2" data-limit="">
              <WarningMark /> {words}
            </p>
          ))}
        </>
      )}
    </section>
  )
}

function Line({ statement: { name, value, words, confidence } }: { statement: Statement }) {
  return (
    <li
      className="grid grid-cols-[82px_92px_minmax(0,1fr)_40px_38px] items-baseline gap-x-2 border-t border-rule py-px"
      data-statement={name}
    >
      <span className="text-ink2">{name}</span>
      <b className="num truncate text-[12px]" title={value}>
        {value}
      </b>
      <span className={`truncate text-[11px] ${value === '–' ? 'text-ink3' : 'text-ink2'}`} title={words}>
        {words}
      </span>
      <span className="relative h-px self-center bg-rule2" aria-hidden="true">
        <i className="absolute -top-px left-0 h-[3px] bg-ink" style={{ width: `${100 * confidence}%` }} />
      </span>
      <span className="num text-right text-[11px]">{confidence === 0 ? '–' : `${Math.round(100 * confidence)} %`}</span>
    </li>
  )
}
