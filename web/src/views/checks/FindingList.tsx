import { Fragment } from 'react'
import { findingKey, type Finding } from '@fulgor/core/checks'
import type { Preset } from '@fulgor/core/preset'
import { edit } from '../../state/actions'
import { asideFindings, openFindings, readingStale } from '../../state/findings'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { figure } from '../../ui/format'
import { FindingEntry } from './FindingEntry'
import { useMending } from './useMending'

/** What was found: what will go wrong, what is worth knowing, and what was set aside. */
export function FindingList({ preset, snapshot }: { preset: Preset; snapshot: string }) {
  const dispatch = useAppDispatch()
  const open = useAppSelector(openFindings)
  const aside = useAppSelector(asideFindings)
  const stale = useAppSelector(readingStale)
  const heardMs = useAppSelector((s) => s.readings.lastMs)
  const mending = useMending(preset)
  const warnings = open.filter((f) => f.severity === 'warning')
  const notes = open.filter((f) => f.severity === 'note')
  const safe = open.flatMap((finding, i) => {
    const mend = finding.mends.find((m) => m.safe)
    return mend ? [{ number: i + 1, mend }] : []
  })
  const entry = (finding: Finding, number: number) => (
    <FindingEntry
      key={findingKey(finding)}
      preset={preset}
      finding={finding}
      number={number}
      lit={snapshot}
      mending={mending}
      stale={stale}
    />
  )
  return (
    <section
      aria-label="Findings"
      className="min-h-0 overflow-y-auto border-r border-rule2 max-[700px]:border-r-0"
      data-stale={stale}
      data-heard-ms={heardMs ?? ''}
    >
      <div className="flex items-center gap-3 border-b border-rule2 px-4 py-3">
        <span className="font-head text-[34px] leading-none font-extrabold [font-stretch:82%]">{warnings.length}</span>
        <h2 className="font-head text-[17px] leading-[19px] font-bold [font-stretch:85%]">
          will go wrong,
          <br />
          and what mends it
        </h2>
        {safe.length > 0 && (
          <button
            type="button"
            className="btn btn-filled ml-auto"
            disabled={stale}
            onClick={() => dispatch(edit({ type: 'all', edits: safe.flatMap((s) => s.mend.edits) }))}
          >
            Mend the {safe.length === 1 ? 'safe one' : `${safe.length} safe ones`}
          </button>
        )}
      </div>
      <p className="border-b border-rule px-4 py-1 text-label text-ink2" role="status">
        {stale
          ? 'Listening to the preset …'
          : safe.length > 0
            ? `Safe: ${safe.map((s) => `${s.number}, ${s.mend.label.toLowerCase()}`).join('; ')}.`
            : 'Heard on its own riffs, and with the guitar at rest.'}
      </p>
      {open.length === 0 && <p className="px-4 py-3 text-ink2">{stale ? '' : 'Nothing found.'}</p>}
      <ol className="list-none">{warnings.map((finding, i) => entry(finding, i + 1))}</ol>
      {notes.length > 0 && (
        <>
          <h2 className="border-b border-rule px-4 pt-3 pb-1 text-name font-bold">
            {notes.length} worth knowing <span className="text-label font-normal text-ink2">nothing breaks; headroom, order, habits</span>
          </h2>
          <ol className="list-none">{notes.map((finding, i) => entry(finding, warnings.length + i + 1))}</ol>
        </>
      )}
      {aside.length > 0 && (
        <div className="px-4 py-2 text-[12px] text-ink2">
          <h2 className="font-semibold text-ink">{aside.length} set aside here</h2>
          {aside.map((finding) => {
            const kept = preset.asides?.find((a) => a.finding === findingKey(finding))
            return (
              <p key={findingKey(finding)} className="py-0.5">
                {finding.figure} {kept?.reason && <Fragment>“{kept.reason}”. </Fragment>}
                {finding.amount &&
                  kept?.amount !== undefined &&
                  `Asked again when it is clearly worse than ${figure(kept.amount)} ${finding.amount.unit}. `}
                <button type="button" className="act" onClick={() => dispatch(edit({ type: 'takeBack', finding: findingKey(finding) }))}>
                  Ask again
                </button>
              </p>
            )
          })}
        </div>
      )}
      <p className="px-4 py-2 text-[12px] text-ink3">Left to taste: how much mids, reverb, gain and width.</p>
    </section>
  )
}
