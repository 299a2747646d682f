import type { ReactNode } from 'react'
import { formatValue, quantity } from '@fulgor/core/catalogue'
import { partName, type Fit, type Preset } from '@fulgor/core/preset'
import { figure } from '../../ui/format'
import { WarningMark } from '../../ui/marks'
import type { Ticks, Transfer } from './useTransfer'

const HZ = quantity('hz', 'Frequency', [20, 20_000])
/** dB under soft strums that a gate's threshold should keep (common practice, no source). */
const SOFT_ROOM_DB = 12

interface Props {
  preset: Preset
  transfer: Transfer
  ticks: Ticks
  /** What the preset keeps for this guitar and position now. */
  kept: Fit | null
  onTick: (part: Partial<Ticks>) => void
  onKeep: () => void
  onForget: () => void
}

/** What would make the other guitar the same: ticked one by one, kept beside the base. */
export function Proposals({ preset, transfer, ticks, kept, onTick, onKeep, onForget }: Props) {
  const { input, gates, trims, ms } = transfer
  if (!input) return <p className="mt-2 text-[12px] text-ink3">Looking for what would make it the same …</p>
  const bands = [
    input.low && (['low shelf', input.low.hz, null, input.low.db] as const),
    input.bell && (['bell', input.bell.hz, input.bell.q, input.bell.db] as const),
    input.high && (['high shelf', input.high.hz, null, input.high.db] as const),
  ].filter((b) => b !== undefined)
  const moved = Object.entries(gates)
  const trimmed = Object.entries(trims)
  const offered = [true, bands.length > 0, moved.length > 0, trimmed.length > 0]
  const meant = [ticks.trim, ticks.bands && bands.length > 0, ticks.gates && moved.length > 0, ticks.trims && trimmed.length > 0]
  const count = meant.filter(Boolean).length
  return (
    <div className="mt-2 text-[12px]" data-proposals={ms === null ? 'working' : count}>
      <div className="flex flex-wrap items-baseline gap-x-3 border-b border-ink pb-1">
        <h2 className="text-section font-bold">Proposed</h2>
        <span className="text-ink2">kept for this guitar and position, beside the base; tick one by one</span>
        <span className="ml-auto flex items-baseline gap-3">
          {kept && (
            <button type="button" className="act" onClick={onForget}>
              Take away what is kept
            </button>
          )}
          <button type="button" className="btn btn-filled" disabled={ms === null || count === 0} onClick={onKeep}>
            Keep {count} of {offered.filter(Boolean).length} and play on it
          </button>
        </span>
      </div>
      <Offer name="Input trim" on={ticks.trim} onChange={(trim) => onTick({ trim })}>
        <b className="num text-ember">{figure(ticks.bands ? input.trim : input.trimAlone, 1, true)} dB</b>
      </Offer>
      <Offer
        name={bands.length === 0 ? 'No bands are needed' : `${['One band', 'Two bands', 'Three bands'][bands.length - 1]} in front`}
        on={ticks.bands && bands.length > 0}
        off={bands.length === 0}
        onChange={(on) => onTick({ bands: on })}
      >
        <span className="flex flex-wrap gap-x-4">
          {bands.map(([kind, hz, q, db]) => (
            <span key={kind}>
              {kind}
              {q === null ? '' : `, Q ${figure(q, 1)}`} <span className="num">{formatValue(HZ, hz)}</span>{' '}
              <b className="num text-ember">{figure(db, 1, true)} dB</b>
            </span>
          ))}
        </span>
      </Offer>
      <Offer
        name={moved.length === 0 ? 'Gates stay as they are' : 'Gate threshold'}
        on={ticks.gates && moved.length > 0}
        off={moved.length === 0}
        onChange={(on) => onTick({ gates: on })}
      >
        <span className="flex flex-wrap gap-x-4">
          {moved.map(([id, moves]) => {
            const soft = Object.values(moves).some((db) => db > SOFT_ROOM_DB)
            return (
              <span key={id} className="flex flex-wrap gap-x-3">
                {partName(preset, id)}
                {preset.snapshots.map((s, i) =>
                  s.id in moves ? (
                    <span key={s.id} title={s.name}>
                      <span className="num text-ink2">{i + 1}</span> <b className="num text-ember">{figure(moves[s.id], 0, true)}</b>
                    </span>
                  ) : null,
                )}
                dB
                {soft && (
                  <span>
                    <WarningMark /> so high that soft strokes may be cut
                  </span>
                )}
              </span>
            )
          })}
        </span>
      </Offer>
      <Offer
        name={trimmed.length === 0 ? 'All are as loud' : 'Trims, dB'}
        on={ticks.trims && trimmed.length > 0}
        off={trimmed.length === 0}
        onChange={(on) => onTick({ trims: on })}
      >
        <span className="flex flex-wrap gap-x-4">
          {preset.snapshots.map((s, i) => (
            <span key={s.id} title={s.name}>
              <span className="num text-ink2">{i + 1}</span> <b className="num text-ember">{figure(trims[s.id] ?? 0, 1, true)}</b>
            </span>
          ))}
        </span>
      </Offer>
    </div>
  )
}

function Offer(props: { name: string; on: boolean; off?: boolean; onChange: (on: boolean) => void; children: ReactNode }) {
  return (
    <div className="grid min-h-[30px] grid-cols-[150px_minmax(0,1fr)] items-center gap-x-3 border-b border-rule py-0.5">
      <label className={`flex items-center gap-2 font-semibold ${props.off ? 'text-ink3' : ''}`}>
        <input
          type="checkbox"
          className="size-4 accent-ember"
          checked={props.on}
          disabled={props.off}
          onChange={(event) => props.onChange(event.currentTarget.checked)}
        />
        {props.name}
      </label>
      {props.children}
    </div>
  )
}
