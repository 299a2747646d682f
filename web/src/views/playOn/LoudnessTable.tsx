import type { Preset } from '@fulgor/core/preset'
import { figure } from '../../ui/format'
import { Distance } from './Distance'
import { withTrim, type Ticks, type Transfer } from './useTransfer'

/** Loudness of every snapshot, as made, as it is and corrected. */
export function LoudnessTable({ preset, transfer, ticks }: { preset: Preset; transfer: Transfer; ticks: Ticks }) {
  return (
    <table className="mt-2 w-full table-fixed text-[12px]" aria-label="Loudness of every snapshot">
      <thead>
        <tr className="border-b border-ink">
          <th className="w-[44%] text-left @min-[700px]:w-[250px] font-semibold">
            Loudness of every snapshot{' '}
            <span className="text-[11px] font-normal text-ink3">
              {transfer.wholeMs === null ? (transfer.ms === null ? 'LUFS' : 'LUFS, first 4 s; the whole riff comes') : 'LUFS over the riff'}
            </span>
          </th>
          <th className="w-[72px] @min-[700px]:w-[104px] text-right text-label font-normal text-ink3">as made</th>
          <th className="w-[72px] @min-[700px]:w-[104px] text-right text-label font-normal text-ink3">as it is</th>
          <th className="w-[72px] @min-[700px]:w-[104px] text-right text-label font-normal text-ink3">corrected</th>
          <th className="hidden pl-4 @min-[700px]:table-cell text-right text-label font-normal text-ink3">−6 … 0 … +6 LU</th>
        </tr>
      </thead>
      <tbody>
        {preset.snapshots.map((s, i) => {
          const [a, b] = [transfer.made, transfer.asIs].map((c) => (c as Partial<typeof c>)[s.id]?.lufs ?? null)
          const c = withTrim(transfer, s.id, ticks)
          const told = (v: number | null) => (v === null ? '…' : figure(v))
          return (
            <tr key={s.id} className="border-b border-rule" data-lufs={s.id}>
              <td className="truncate py-0.5">
                <span className="num mr-1 text-ink2">{i + 1}</span>
                {s.name}
              </td>
              <td className="num text-right text-lane">{told(a)}</td>
              <td className="num text-right">{told(b)}</td>
              <td className="num text-right font-semibold text-ember" data-value={c?.toFixed(2) ?? ''}>
                {told(c)}
              </td>
              <td className="hidden pl-4 @min-[700px]:table-cell">
                <Distance
                  from={a === null || b === null ? null : b - a}
                  to={a === null || c === null ? null : c - a}
                  most={6}
                  words={`Loudness of ${s.name}`}
                />
              </td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}
