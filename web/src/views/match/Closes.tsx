import { useRef, useState, type KeyboardEvent } from 'react'
import { EQ_PLACES, type Step } from '@fulgor/core/closing'
import { TASTES, type Taste } from '@fulgor/core/match'
import { quantity } from '@fulgor/core/catalogue'
import { Explain } from '../../ui/Explain'
import { figure } from '../../ui/format'
import { stepped } from '../../ui/listKeys'
import { WarningMark } from '../../ui/marks'
import { NumberField } from '../../ui/NumberField'
import { Pick } from '../../ui/Pick'
import { Progress } from '../../ui/Progress'
import { Segments } from '../../ui/Segments'
import type { FoundStep, Row, Wanted, Way } from './findWay'
import type { Finding } from './useFinding'

const NAMES: Record<Step, string> = { cabinet: 'Cabinet', eq: 'EQ', amp: 'Amp, drive', time: 'Time' }
const SMALL = 'num w-[36px] border-b border-control bg-transparent text-right outline-none focus:border-ink'

interface Props {
  finding: Finding
  wanted: Wanted
  onWanted: (wanted: Wanted) => void
  ready: boolean
  old: boolean
  /** The sheet itself has: nothing of it can be taken. */
  moved: boolean
  heard: string | null
  /** Where nothing is left to win, dB. */
  ownDb: number | null
  onFind: () => void
  onCancel: () => void
  onHear: (row: Row | null) => void
  onTake: (row: Row) => void
  onTakeAll: (way: Way) => void
}

export const keyOf = (step: Step, row: Row): string => `${step} ${row.proposal.id}`

/** What would bring the snapshot nearer: steps with their best candidates, each heard by the arrow keys and taken by Enter. */
export function Closes(props: Props) {
  const { finding, wanted, onWanted, ready, old, moved, heard, ownDb, onFind, onCancel, onHear, onTake, onTakeAll } = props
  const { way, running } = finding
  const [blind, setBlind] = useState(false)
  const list = useRef<HTMLDivElement>(null)
  const rows = (way?.steps ?? []).flatMap(({ step, rows: of }) => of.map((row) => ({ step, row })))
  const at = rows.findIndex(({ step, row }) => keyOf(step, row) === heard)
  const chosen = at < 0 ? null : rows[at].row
  const onKey = (event: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
    if (step !== undefined && rows.length > 0) {
      const next = stepped(at, step, rows.length)
      onHear(rows[next].row)
      list.current?.querySelectorAll('[role=option]')[next]?.scrollIntoView({ block: 'nearest' })
    } else if (event.key === 'Enter' && chosen) onTake(chosen)
    else if (event.key === 'Escape' && chosen) onHear(null)
    else return
    event.preventDefault()
  }
  const most = Math.max(2, Math.ceil(Math.max(0, way?.from ?? 0, ...rows.map(({ row }) => row.db)) + 0.2))
  const { eq, aim, order } = wanted
  const counts = way?.counts
  return (
    <section
      aria-label="What closes it"
      className="min-w-0 text-[12px]"
      data-way={running ? 'running' : finding.first ? 'first' : way ? 'done' : 'none'}
      data-first-ms={way?.firstMs ? Math.round(way.firstMs) : ''}
      data-seconds={way && !running ? way.seconds.toFixed(1) : ''}
    >
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="text-section font-bold">
          What closes it <Explain term="closing" />
        </h2>
        {counts && !finding.first && (
          <span className="num text-ink2" data-tried={counts.blends}>
            {counts.blends.toLocaleString('en-GB')} blends, {counts.eqs} EQs, {counts.settings} settings in {figure(way.seconds, 0)} s
          </span>
        )}
      </div>
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-0.5">
        <span className="flex items-baseline gap-2">
          <span className="text-ink2">Order</span>
          <Segments
            label="Order of work"
            value={order}
            options={[
              ['cabinet', 'Cabinet first'],
              ['amp', 'Amp first'],
            ]}
            onChange={(next) => onWanted({ ...wanted, order: next })}
          />
        </span>
        <span className="flex items-baseline gap-2" role="group" aria-label="Taste">
          <span className="text-ink2">Taste</span>
          {TASTES.map((taste) => (
            <TasteButton
              key={taste}
              taste={taste}
              on={aim.tastes.includes(taste)}
              onChange={(on) =>
                onWanted({
                  ...wanted,
                  aim: {
                    ...aim,
                    tastes: on ? [...aim.tastes.filter((t) => OPPOSITE[taste] !== t), taste] : aim.tastes.filter((t) => t !== taste),
                  },
                })
              }
            />
          ))}
        </span>
        <span className="ml-auto">
          {running ? (
            <button type="button" className="act" onClick={onCancel}>
              Cancel
            </button>
          ) : (
            <button type="button" className="btn btn-filled" disabled={!ready} onClick={onFind}>
              {way && !finding.first ? 'Find again' : 'Find a way'}
            </button>
          )}
        </span>
      </div>
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-0.5" role="group" aria-label="Equaliser">
        <span className="flex items-baseline gap-1">
          <span className="text-ink2">EQ</span>
          <NumberField
            spec={quantity('count', 'Bands at most', [1, 5])}
            value={eq.bands}
            className={SMALL}
            onChange={(bands) => onWanted({ ...wanted, eq: { ...eq, bands } })}
          />
          bands, ±
          <NumberField
            spec={quantity('db', 'Most that a band turns', [1, 15])}
            value={eq.mostDb}
            className="num w-[52px] border-b border-control bg-transparent text-right outline-none focus:border-ink"
            onChange={(mostDb) => onWanted({ ...wanted, eq: { ...eq, mostDb } })}
          />
          , Q to
          <NumberField
            spec={quantity('q', 'Narrowest band', [0.7, 10])}
            value={eq.mostQ}
            className={SMALL}
            format={(q) => figure(q)}
            onChange={(mostQ) => onWanted({ ...wanted, eq: { ...eq, mostQ } })}
          />
        </span>
        <label className="flex items-baseline gap-1">
          <input
            type="checkbox"
            className="self-center accent-ember"
            checked={eq.cutOnly}
            onChange={() => onWanted({ ...wanted, eq: { ...eq, cutOnly: !eq.cutOnly } })}
          />
          cuts only
        </label>
        <Pick
          label="Where the equaliser goes"
          value={eq.place}
          options={EQ_PLACES.map((p) => [p, p] as const)}
          onChange={(place) => onWanted({ ...wanted, eq: { ...eq, place } })}
        />
      </div>
      {running && (
        <div className="flex items-center gap-3 py-0.5">
          <span className="num min-w-[190px] text-ink2" aria-live="polite">
            {finding.doing} …
          </span>
          <Progress label="Finding a way" value={Math.round(100 * finding.share)} max={100} />
        </div>
      )}
      {finding.problem !== null && (
        <p role="alert" className="font-semibold">
          <WarningMark /> {finding.problem}
        </p>
      )}
      {way && old && !running && !finding.first && (
        <p className="text-ink2">
          <WarningMark /> The sheet or the recording has changed since; these were found for what was there before.
          {moved && ' Undo, or find again, to take them.'}
        </p>
      )}
      {way && way.gone.length > 0 && (
        <p className="text-ink2" data-gone="">
          <WarningMark /> Passed over, no longer in the library: {way.gone.join(', ')}.
        </p>
      )}
      {way ? (
        <div
          ref={list}
          role="listbox"
          aria-label="Candidates"
          aria-activedescendant={chosen ? `row-${at}` : undefined}
          tabIndex={0}
          data-desk-keys=""
          className="mt-1 border-t border-ink outline-offset-2"
          onKeyDown={onKey}
        >
          <Scale most={most} />
          <Start from={way.from} most={most} ownDb={ownDb} />
          {way.steps.map((step) => (
            <StepRows
              key={step.step}
              step={step}
              most={most}
              ownDb={ownDb}
              heard={heard}
              blind={blind}
              rows={rows}
              onHear={onHear}
              onTake={onTake}
              running={running}
            />
          ))}
        </div>
      ) : (
        !running && (
          <p className="border-t border-rule py-1 text-ink2">
            {ready
              ? 'It tries responses alone and as pairs, equalisers, amps and drives with their knobs, and what time the recording has.'
              : 'Choose a recording first, and let the riff be measured.'}
          </p>
        )
      )}
      {way && (
        <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1 pt-1.5">
          <button type="button" className="btn btn-filled" disabled={!chosen || moved} onClick={() => chosen && onTake(chosen)}>
            Take it
          </button>
          <button
            type="button"
            className="btn"
            disabled={moved || running || finding.first || way.steps.every((s) => s.taken === null)}
            onClick={() => onTakeAll(way)}
          >
            Take all, <span className="num">{figure(way.steps.at(-1)?.to)} dB</span>
          </button>
          <button type="button" className="act" aria-pressed={blind} onClick={() => setBlind(!blind)}>
            {blind ? 'Show names' : 'Blind'}
          </button>
          <span className="ml-auto text-[11px] text-ink3">↑ ↓ hear · Enter take · A the recording · Esc the sheet</span>
        </div>
      )}
    </section>
  )
}

const OPPOSITE: Partial<Record<Taste, Taste>> = { darker: 'brighter', brighter: 'darker', tighter: 'fuller', fuller: 'tighter' }

function TasteButton({ taste, on, onChange }: { taste: Taste; on: boolean; onChange: (on: boolean) => void }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      className={`min-h-6 border-b-2 ${on ? 'border-ember font-bold' : 'border-transparent text-ink2 hover:text-ink'}`}
      onClick={() => onChange(!on)}
    >
      {taste}
    </button>
  )
}

const GRID = 'grid grid-cols-[78px_minmax(0,1fr)_132px_36px] gap-x-2'

function Scale({ most }: { most: number }) {
  return (
    <div className={`${GRID} items-baseline border-b border-rule text-[11px] text-ink2`}>
      <span>Step, gain</span>
      <span>Best candidates</span>
      <span className="num relative h-4 text-ink3" aria-hidden="true">
        {Array.from({ length: most + 1 }, (_, db) => (
          <span key={db} className="absolute -translate-x-1/2" style={{ left: `${(100 * db) / most}%` }}>
            {db % (most > 16 ? 4 : most > 8 ? 2 : 1) === 0 ? db : ''}
          </span>
        ))}
      </span>
      <span className="text-right">dB left</span>
    </div>
  )
}

interface DotProps {
  db: number
  most: number
  ownDb: number | null
  kind: 'heard' | 'taken' | 'plain' | 'start'
  /** dB left above this row and below it. */
  stair: readonly [above: number | null, below: number]
}

/** Where a row stands on the scale, and the way that is gone on from. */
function Dot({ db, most, ownDb, kind, stair: [above, below] }: DotProps) {
  const at = (value: number) => Math.min(100, (100 * value) / most)
  const own = ownDb === null ? null : Math.min(100, (100 * ownDb) / most)
  return (
    <span className="relative self-stretch" aria-hidden="true">
      {Array.from({ length: most + 1 }, (_, n) => (
        <i key={n} className="absolute inset-y-0 border-l border-rule" style={{ left: `${(100 * n) / most}%` }} />
      ))}
      {own !== null && <i className="absolute inset-y-0 border-l-2 border-lane" style={{ left: `${own}%` }} />}
      {above !== null && <i className="absolute top-0 bottom-1/2 border-l border-dashed border-ember" style={{ left: `${at(above)}%` }} />}
      {above !== null && above !== below && (
        <i
          className="absolute top-1/2 border-t border-ember"
          style={{ left: `${at(Math.min(above, below))}%`, width: `${at(Math.abs(above - below))}%` }}
        />
      )}
      <i className="absolute top-1/2 bottom-0 border-l border-dashed border-ember" style={{ left: `${at(below)}%` }} />
      <i
        className={`absolute top-1/2 size-[9px] -translate-1/2 rounded-full ${kind === 'heard' ? 'bg-ember' : kind === 'taken' ? 'border-2 border-ember bg-paper' : kind === 'start' ? 'border-2 border-ink bg-paper' : 'bg-ink'}`}
        style={{ left: `${Math.min(100, (100 * db) / most)}%` }}
      />
    </span>
  )
}

function Start({ from, most, ownDb }: { from: number; most: number; ownDb: number | null }) {
  return (
    <div className={`${GRID} min-h-6 items-center`}>
      <span />
      <b>this sheet now</b>
      <Dot db={from} most={most} ownDb={ownDb} kind="start" stair={[null, from]} />
      <b className="num text-right">{figure(from)}</b>
    </div>
  )
}

interface StepProps {
  step: FoundStep
  most: number
  ownDb: number | null
  heard: string | null
  blind: boolean
  running: boolean
  rows: readonly { readonly step: Step; readonly row: Row }[]
  onHear: (row: Row | null) => void
  onTake: (row: Row) => void
}

function StepRows({
  step: { step, from, to, rows, why, taken },
  most,
  ownDb,
  heard,
  blind,
  running,
  rows: all,
  onHear,
  onTake,
}: StepProps) {
  return (
    <div className="grid grid-cols-[78px_minmax(0,1fr)] gap-x-2 border-t border-ink" data-step={step}>
      <div className="py-0.5">
        <b className="block">{NAMES[step]}</b>
        {rows.length > 0 && rows[0].portrait !== null && (
          <>
            <span className="num text-[11px] text-ink2">
              {figure(from)} → {figure(to)}
            </span>
            <b className="num block text-[14px]">{figure(to - from)} dB</b>
          </>
        )}
      </div>
      <div className="min-w-0">
        {why !== null && <p className="py-1 text-ink2">{why}</p>}
        {rows.map((row, k) => {
          const key = keyOf(step, row)
          const on = heard === key
          const index = all.findIndex((r) => r.row === row)
          return (
            <div
              key={key}
              id={`row-${index}`}
              role="option"
              aria-selected={on}
              className={`grid cursor-pointer grid-cols-[minmax(0,1fr)_132px_36px] items-center gap-x-2 border-t border-rule first:border-0 ${on ? 'bg-lit' : 'hover:bg-deep'}`}
              onClick={() => onHear(on ? null : row)}
              onDoubleClick={() => onTake(row)}
            >
              <span className={`min-w-0 border-l-[3px] py-0.5 pl-1.5 ${on ? 'border-ember' : 'border-transparent'}`}>
                <span className="block truncate font-semibold" title={blind ? undefined : row.proposal.name}>
                  <span className="num text-ink2">{k + 1}</span> {blind ? `Candidate ${letterOf(index)}` : row.proposal.name}
                </span>
                {!blind && (
                  <span
                    className="block truncate text-[11px] leading-[13px] text-ink2"
                    title={`${row.proposal.detail}${row.proposal.warning ? `; ${row.proposal.warning}` : ''}`}
                  >
                    {row.proposal.warning !== undefined && (
                      <>
                        <WarningMark /> {row.proposal.warning}; {}
                      </>
                    )}
                    {row.proposal.detail}
                  </span>
                )}
              </span>
              <Dot
                db={row.db}
                most={most}
                ownDb={ownDb}
                kind={on ? 'heard' : taken === k ? 'taken' : 'plain'}
                stair={[taken !== null && k > taken ? to : from, taken !== null && k >= taken ? to : from]}
              />
              <b
                className={`num text-right ${on ? 'text-ember' : ''} ${row.portrait ? '' : 'font-normal'}`}
                title={row.portrait ? 'as rendered' : 'by its response alone'}
              >
                {blind ? '·' : figure(row.db)}
              </b>
            </div>
          )
        })}
        {running && rows.length > 0 && !rows[0].portrait && (
          <p className="py-0.5 text-[11px] text-ink3">first ones, by their responses alone</p>
        )}
      </div>
    </div>
  )
}

const letterOf = (index: number): string => String.fromCharCode(65 + (index % 26))
