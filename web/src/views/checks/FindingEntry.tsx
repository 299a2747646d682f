import { useState } from 'react'
import { findingKey, whyOf, type Finding } from '@fulgor/core/checks'
import { findSnapshot, findStage, partName, type Preset } from '@fulgor/core/preset'
import { edit } from '../../state/actions'
import { snapshotChosen, stageChosen } from '../../state/editor'
import { useAppDispatch } from '../../state/store'
import { figure } from '../../ui/format'
import { NoteMark, WarningMark } from '../../ui/marks'
import type { Mending } from './useMending'
import { WhyDrawing } from './WhyDrawing'

interface Props {
  preset: Preset
  finding: Finding
  number: number
  lit: string
  mending: Mending
  stale: boolean
}

/** One finding: what is so with its figure, what mends it, heard before it is taken. */
export function FindingEntry({ preset, finding, number, lit, mending, stale }: Props) {
  const dispatch = useAppDispatch()
  const [why, setWhy] = useState(false)
  const [leaving, setLeaving] = useState(false)
  const key = findingKey(finding)
  const { severity, figure: sentence, reason, amount, mends, where, snapshots } = finding
  const hearing = mending.hearing?.finding === key ? mending.hearing : null
  const warning = severity === 'warning'
  return (
    <li
      className={`grid grid-cols-[34px_minmax(0,1fr)_auto] border-b border-rule px-4 py-2 ${hearing ? 'bg-deep shadow-[inset_4px_0_0_var(--ember)]' : ''}`}
      data-rule={finding.rule}
    >
      <span className="num text-label">
        {warning ? <WarningMark /> : <NoteMark />} {number}
      </span>
      <div className="min-w-0">
        <p className={warning ? 'font-semibold' : 'font-medium'}>{sentence}</p>
        <p className="text-[12px] text-ink2">
          {reason}
          {snapshots && !snapshots.includes(lit) && findSnapshot(preset, snapshots[0]) && (
            <>
              {' '}
              <button type="button" className="act font-normal" onClick={() => dispatch(snapshotChosen(snapshots[0]))}>
                Go to {findSnapshot(preset, snapshots[0])?.name}
              </button>
            </>
          )}
          {where
            .filter((id) => findStage(preset, id))
            .map((id) => (
              <button key={id} type="button" className="act ml-2 font-normal" onClick={() => dispatch(stageChosen({ stage: id }))}>
                Row {partName(preset, id)}
              </button>
            ))}
        </p>
      </div>
      {amount && (
        <p className="max-w-[110px] pl-2 text-right">
          <span className={`num block leading-none font-bold ${warning ? 'text-[20px]' : 'text-[15px]'}`}>{figure(amount.value)}</span>
          <span className="narrow block text-axis text-ink2">
            {amount.unit} {amount.against}
          </span>
        </p>
      )}
      <div className="col-span-2 col-start-2 flex flex-wrap items-baseline gap-x-4">
        {hearing && (
          <span role="group" aria-label="Heard" className="flex items-baseline gap-3">
            {(['without', 'with'] as const).map((side) => (
              <button
                key={side}
                type="button"
                aria-pressed={hearing.side === side}
                onClick={() => mending.turn(side)}
                className={`min-h-6 border-b-2 ${hearing.side === side ? 'border-ember font-bold' : 'border-transparent text-ink2'}`}
              >
                {side === 'with' ? (mends.length > 1 ? `with “${hearing.mend}”` : 'with the mend') : 'without'}
              </button>
            ))}
            <span className="num text-label text-ink2">
              {hearing.matchDb === null ? 'matching …' : `matched ${figure(hearing.matchDb, 1, true)} dB`}
            </span>
            <button type="button" className="act font-normal" onClick={mending.end}>
              Stop
            </button>
          </span>
        )}
        {mends.map((mend) => (
          <span key={mend.label} className="flex flex-wrap gap-x-3">
            {hearing?.mend !== mend.label && (
              <button type="button" className="act" disabled={stale} onClick={() => void mending.hear(key, finding, mend)}>
                Hear it
              </button>
            )}
            <button
              type="button"
              className="act font-bold text-ember"
              disabled={stale}
              onClick={() => dispatch(edit({ type: 'all', edits: mend.edits }))}
            >
              {mend.label}
            </button>
          </span>
        ))}
        <button type="button" className="act font-normal" aria-expanded={why} onClick={() => setWhy(!why)}>
          Why
        </button>
        <button type="button" className="act ml-auto font-normal" aria-expanded={leaving} onClick={() => setLeaving(!leaving)}>
          Not here
        </button>
      </div>
      {why && (
        <div className="col-span-2 col-start-2 max-w-prose pt-1 text-[12px] leading-[17px] text-ink2">
          <p>{whyOf(finding.rule)}</p>
          <WhyDrawing rule={finding.rule} />
        </div>
      )}
      {leaving && (
        <form
          className="col-span-2 col-start-2 flex items-baseline gap-2 pt-1"
          onSubmit={(event) => {
            event.preventDefault()
            const typed = new FormData(event.currentTarget).get('reason')
            const reason = typeof typed === 'string' ? typed.trim() : ''
            dispatch(
              edit({
                type: 'setAside',
                aside: { finding: key, ...(amount ? { amount: amount.value } : {}), ...(reason ? { reason } : {}) },
              }),
            )
          }}
        >
          <input
            name="reason"
            aria-label="Why it is meant so"
            placeholder="why, if you like"
            maxLength={200}
            autoFocus
            className="field min-w-0 flex-1"
          />
          <button type="submit" className="act">
            Set aside
          </button>
          <button type="button" className="act font-normal" onClick={() => setLeaving(false)}>
            Keep it
          </button>
        </form>
      )}
    </li>
  )
}
