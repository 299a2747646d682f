import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react'
import { shallowEqual } from 'react-redux'
import { Link } from 'react-router'
import type { Finding } from '@fulgor/core/checks'
import { modelOf } from '@fulgor/core/catalogue'
import { findStage, type Preset } from '@fulgor/core/preset'
import { edit, presentPreset } from '../state/actions'
import { stageChosen } from '../state/editor'
import { openFindings, readingStale } from '../state/findings'
import { useAppDispatch, useAppSelector, type RootState } from '../state/store'
import { Chevron, NoteMark, WarningMark } from '../ui/marks'

/** What is found in the preset as it stands, each with a reason and what mends it. */
export function Findings() {
  // an edit finds the same anew: what is told here changes by its counts alone
  const { warnings, notes } = useAppSelector(counts, shallowEqual)
  const id = useAppSelector((s) => s.editor.id)
  const stale = useAppSelector(readingStale)
  const all = warnings + notes
  const words =
    all === 0 ? (stale ? 'listening …' : 'nothing found') : warnings === 0 ? `${notes} worth knowing` : `${warnings} will go wrong`
  return (
    <div>
      <div className="eyebrow">Checks</div>
      <Popover>
        <PopoverButton className={`act ${all === 0 ? 'font-normal' : ''}`} data-findings={all}>
          {warnings > 0 && (
            <>
              <WarningMark />{' '}
            </>
          )}
          {words}
          {warnings > 0 && notes > 0 && (
            <>
              {' '}
              <NoteMark /> {notes}
            </>
          )}
          <Chevron />
        </PopoverButton>
        <PopoverPanel anchor="bottom end" className="z-50 mt-1 max-h-[70vh] w-[380px] overflow-y-auto border border-ink bg-paper px-4 py-2">
          <Link className="act" to={`/checks/${id ?? ''}`}>
            Open Checks: hear them, net curve, noise
          </Link>
          <FindingList />
        </PopoverPanel>
      </Popover>
    </div>
  )
}

function counts(state: RootState): { readonly warnings: number; readonly notes: number } {
  const findings = openFindings(state)
  const warnings = findings.filter((f) => f.severity === 'warning').length
  return { warnings, notes: findings.length - warnings }
}

/** Drawn only while it is open. */
function FindingList() {
  const findings = useAppSelector(openFindings)
  const preset = useAppSelector(presentPreset)
  if (!preset) return null
  return (
    <ul>
      {findings.map((finding, i) => (
        <FindingItem
          key={`${finding.rule} ${finding.where.join(' ')} ${finding.figure}`}
          preset={preset}
          finding={finding}
          number={i + 1}
        />
      ))}
    </ul>
  )
}

interface ItemProps {
  preset: Preset
  finding: Finding
  /** As at the row that it is about. */
  number?: number
}

/** One finding: what is so, why it matters, and what mends it. */
export function FindingItem({ preset, finding, number }: ItemProps) {
  const dispatch = useAppDispatch()
  const { severity, where, figure, reason, mends } = finding
  return (
    <li className="border-t border-rule py-1.5 first:border-0" data-rule={finding.rule}>
      <p>
        {severity === 'warning' ? <WarningMark /> : <NoteMark />} {number !== undefined && <span className="num mr-1">{number}</span>}
        {where.map((id, i) => {
          const stage = findStage(preset, id)
          return (
            <span key={id}>
              {i > 0 && ', '}
              <button
                type="button"
                className="font-semibold underline underline-offset-2"
                onClick={() => dispatch(stageChosen({ stage: id }))}
              >
                {stage ? modelOf(stage.model).name : id}
              </button>
            </span>
          )
        })}
        {where.length > 0 && ': '}
        <b>{figure}</b> {reason}
      </p>
      <div className="flex flex-wrap gap-x-4">
        {mends.map(({ label, edits }) => (
          <button key={label} type="button" className="act" onClick={() => dispatch(edit({ type: 'all', edits }))}>
            {label}
          </button>
        ))}
      </div>
    </li>
  )
}
