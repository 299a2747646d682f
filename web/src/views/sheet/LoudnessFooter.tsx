import { memo } from 'react'
import { targetOf, trimOf, type Preset, type Snapshot } from '@fulgor/core/preset'
import { modelOf } from '@fulgor/core/catalogue'
import { CEILING_DBTP } from '@fulgor/core/measure'
import { levelSnapshots } from '../../state/levelling'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { Explain } from '../../ui/Explain'
import { figure } from '../../ui/format'
import { WarningMark } from '../../ui/marks'

/** LU of the drawing's half height. */
const SPAN = 8

/** Loudness of every snapshot as distance from the target line, and the trim that would bring it there. */
export function LoudnessFooter({ preset }: { preset: Preset }) {
  const dispatch = useAppDispatch()
  const fresh = useAppSelector(({ measures }) => preset.snapshots.filter((s) => measures.snapshots[s.id]?.fresh).length)
  const off = useAppSelector(
    ({ measures }) =>
      preset.snapshots.filter((s) => {
        const lufs = measures.snapshots[s.id]?.output?.integratedLufs
        return !s.ignored && lufs != null && Math.abs(lufs - targetOf(preset, s)) > 0.1
      }).length,
  )
  const error = useAppSelector((s) => s.measures.error)
  const active = useAppSelector((s) => s.measures.lastActiveMs)
  const all = useAppSelector((s) => s.measures.lastAllMs)
  const lit = useAppSelector((s) => s.editor.snapshot)
  const trim = trimOf(preset)
  const label = 'flex h-6 items-center gap-2 border-t border-rule pl-3.5 text-label text-ink3'
  return (
    <div
      className="sheet-columns sticky bottom-0 z-20 grid flex-none border-t border-ink bg-paper"
      role="group"
      aria-label="Loudness"
      data-active-ms={active ?? undefined}
      data-all-ms={all ?? undefined}
    >
      <div className="sticky left-0 z-10 col-span-3 bg-paper">
        <div className="flex h-[44px] items-center justify-between gap-3 pr-3 pl-3.5">
          <span className="text-label font-medium text-lane">
            <i className="mr-1.5 inline-block w-4 border-t-[1.5px] border-lane align-[3px]" />
            target {figure(preset.targetLufs)} LUFS
          </span>
          {error ? (
            <span role="alert" className="min-w-0 truncate text-label font-semibold" title={error}>
              <WarningMark /> {error}
            </span>
          ) : (
            fresh < preset.snapshots.length && (
              <span className="text-label text-ink3" aria-live="polite">
                measuring {fresh} of {preset.snapshots.length}
              </span>
            )
          )}
          <button
            type="button"
            className="btn btn-filled"
            disabled={fresh === preset.snapshots.length && off === 0}
            onClick={() => dispatch(levelSnapshots())}
            title={
              trim
                ? `Sets the ${trim.spec.label.toLowerCase()} of ${modelOf(trim.stage.model).name} in every snapshot so that it meets its target (L)`
                : 'There is nothing to trim'
            }
          >
            {preset.snapshots.length === 1 ? 'Level it' : `Level all ${preset.snapshots.length}`}
          </button>
        </div>
        <div className={label}>
          <b className="text-body font-semibold text-ink">Loudness</b> LUFS, over the riff <Explain term="loudness" />
        </div>
        <div className={label}>
          <b className="text-body font-semibold text-ink">Change to target</b> dB <Explain term="change" />
        </div>
        <div className={label}>
          <b className="text-body font-semibold text-ink">True peak</b> dBTP <Explain term="peak" />
        </div>
      </div>
      <SpokenTable preset={preset} />
      {preset.snapshots.map((snapshot) => (
        <Column
          key={snapshot.id}
          snapshot={snapshot}
          target={targetOf(preset, snapshot)}
          whole={preset.targetLufs}
          lit={snapshot.id === lit}
        />
      ))}
      <div className="border-l border-rule max-[700px]:hidden" />
    </div>
  )
}

interface ColumnProps {
  readonly snapshot: Snapshot
  readonly target: number
  /** The preset's own target. */
  readonly whole: number
  readonly lit: boolean
}

/** One snapshot's figures. */
const Column = memo(function Column({ snapshot, target, whole, lit }: ColumnProps) {
  const output = useAppSelector((s) => s.measures.snapshots[snapshot.id]?.output)
  const fresh = useAppSelector((s) => s.measures.snapshots[snapshot.id]?.fresh)
  const lufs = output?.integratedLufs ?? null
  const change = lufs === null ? null : target - lufs
  const peak = output?.truePeakDbtp ?? null
  return (
    <div
      data-loudness={snapshot.name}
      data-fresh={fresh ?? false}
      aria-hidden="true"
      className={`border-l border-rule ${lit ? 'bg-lit' : 'max-[700px]:hidden'} ${fresh ? '' : 'text-ink3'}`}
    >
      <div className="relative">
        <Distance change={change} lit={lit} />
        {target !== whole && (
          <span className="num absolute top-0 right-1 text-axis text-lane" title="Its own target against the preset’s">
            {figure(target - whole, 1, true)}
          </span>
        )}
        {snapshot.ignored && <span className="absolute bottom-0 left-1 text-axis text-ink3">left alone</span>}
      </div>
      <div className="num flex h-6 items-center border-t border-rule pl-2 text-[12px] font-semibold">{figure(lufs)}</div>
      <div className="num flex h-6 items-center border-t border-rule pl-2 text-[12px]">{figure(change, 1, true)}</div>
      <div
        className={`num flex h-6 items-center gap-1 border-t border-rule pl-2 text-[12px] ${peak !== null && peak > CEILING_DBTP ? 'font-semibold' : ''}`}
      >
        {peak !== null && peak > CEILING_DBTP && <WarningMark />}
        {figure(peak)}
      </div>
    </div>
  )
})

/** The same figures as a table, for those who hear the page: a snapshot a row. */
function SpokenTable({ preset }: { preset: Preset }) {
  return (
    <table className="sr-only">
      <caption>Loudness of the snapshots over the riff</caption>
      <thead>
        <tr>
          {['Snapshot', 'Loudness, LUFS', 'Target, LUFS', 'Change to target, dB', 'True peak, dBTP'].map((head) => (
            <th key={head} scope="col">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {preset.snapshots.map((snapshot) => (
          <SpokenRow key={snapshot.id} snapshot={snapshot} target={targetOf(preset, snapshot)} />
        ))}
      </tbody>
    </table>
  )
}

const SpokenRow = memo(function SpokenRow({ snapshot, target }: Pick<ColumnProps, 'snapshot' | 'target'>) {
  const output = useAppSelector((s) => s.measures.snapshots[snapshot.id]?.output)
  const fresh = useAppSelector((s) => s.measures.snapshots[snapshot.id]?.fresh)
  const lufs = output?.integratedLufs ?? null
  const peak = output?.truePeakDbtp ?? null
  return (
    <tr>
      <th scope="row">{snapshot.name}</th>
      <td>{fresh ? figure(lufs) : 'being measured'}</td>
      <td>{figure(target)}</td>
      <td>{lufs === null ? '' : figure(target - lufs, 1, true)}</td>
      <td>{peak !== null && peak > CEILING_DBTP ? `${figure(peak)}, too hot` : figure(peak)}</td>
    </tr>
  )
})

/** Distance from the target line, ±8 LU; drawn in the column's own width. */
function Distance({ change, lit }: { change: number | null; lit: boolean }) {
  const at = change === null ? 22 : 22 + Math.max(-1, Math.min(1, change / SPAN)) * 18
  const tone = lit ? 'var(--ember)' : 'var(--ink)'
  const beyond = change !== null && Math.abs(change) > SPAN ? Math.sign(change) : 0
  return (
    <svg width="100%" height="44" viewBox="0 0 70 44" preserveAspectRatio="none" aria-hidden="true" className="block">
      <path d="M0 22H70" stroke="var(--lane)" strokeWidth="1.5" vectorEffect="non-scaling-stroke" />
      {change !== null && (
        <>
          <path d={`M35 22V${at}`} stroke={tone} strokeWidth="1" vectorEffect="non-scaling-stroke" />
          {beyond === 0 ? (
            <path d={`M24 ${at}H46`} stroke={tone} strokeWidth="3" vectorEffect="non-scaling-stroke" />
          ) : (
            // farther away than is drawn: an arrow in place of the bar
            <path d={`M26 ${at}L35 ${at + beyond * 4}L44 ${at}Z`} fill={tone} />
          )}
        </>
      )}
    </svg>
  )
}
