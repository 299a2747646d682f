import { clippingStages, madeOn, partName, type Preset } from '@fulgor/core/preset'
import type { TransferColumn } from '@fulgor/core/transfer'
import type { Playable } from '../../state/hand'
import { figure } from '../../ui/format'
import { WarningMark } from '../../ui/marks'
import { Distance } from './Distance'
import type { Transfer } from './useTransfer'

type Key = 'driveDbfs' | 'edgeDb' | 'brightnessHz' | 'noiseDbfs' | 'gateRoomDb'

/** Room under a gate that is tight, dB. */
const TIGHT_DB = 6

/** What a snapshot is on what it was made on, on the other guitar, and corrected: side by side, with the distances drawn. */
export function TransferTable(props: { preset: Preset; to: Playable; position: number; transfer: Transfer; lit: string }) {
  const { preset, to, position, transfer, lit } = props
  const [a, b, c] = [transfer.made, transfer.asIs, transfer.corrected].map((x) => (x as Partial<typeof x>)[lit] ?? null)
  const clip = clippingStages(preset, lit).at(0)
  const rows: readonly (readonly [Key, string, string])[] = [
    ['driveDbfs', clip ? `Drive into ${partName(preset, clip.id)}` : 'Level into the chain', 'dBFS'],
    ['edgeDb', 'Edge of breakup', 'dB to a normal stroke'],
    ['brightnessHz', clip ? 'Brightness into it' : 'Brightness', 'kHz'],
    ['noiseDbfs', 'Noise at rest', 'dBFS'],
    ['gateRoomDb', 'Room under the gate', 'dB'],
  ]
  return (
    <table className="w-full table-fixed text-[12px]" aria-label="What changes">
      <thead>
        <tr className="border-b border-ink align-bottom">
          <th className="w-[44%] text-left @min-[700px]:w-[250px] text-label font-normal text-ink3">
            {preset.snapshots.find((s) => s.id === lit)?.name}
          </th>
          <Head letter="A" name={madeOn(preset).name} words="as made" tone="text-lane" />
          <Head letter="B" name={to.profile.name} words="as it is" tone="" />
          <Head letter="C" name={`${to.profile.name}, ${position + 1}`} words="corrected" tone="text-ember" />
          <th className="hidden pl-4 @min-[700px]:table-cell text-right text-label font-normal text-ink3">from A, dB; brightness %</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(([key, name, unit]) => (
          <tr key={key} className="border-b border-rule" data-row={key}>
            <td className="truncate py-1">
              <b className="font-semibold">{name}</b> <span className="text-[11px] text-ink3">{unit}</span>
            </td>
            <Cell column={a} of={key} tone="text-lane" />
            <Cell column={b} of={key} tone="" />
            <Cell column={c} of={key} tone="font-semibold text-ember" />
            <td className="hidden pl-4 @min-[700px]:table-cell">
              <Distance from={apart(key, a, b)} to={apart(key, a, c)} most={20} words={name} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

function Head({ letter, name, words, tone }: { letter: string; name: string; words: string; tone: string }) {
  return (
    <th className={`w-[72px] @min-[700px]:w-[104px] text-right font-semibold ${tone}`}>
      <span className="block truncate">
        {name} <span className="ml-0.5 inline-grid size-[16px] place-items-center border border-control text-[11px]">{letter}</span>
      </span>
      <span className="block text-label font-normal text-ink3">{words}</span>
    </th>
  )
}

function Cell({ column, of, tone }: { column: TransferColumn | null; of: Key; tone: string }) {
  const value = column?.[of] ?? null
  const tight = of === 'gateRoomDb' && value !== null && value < TIGHT_DB
  return (
    <td className={`num text-right ${tone}`} data-value={value === null ? '' : value.toFixed(2)}>
      {tight && <WarningMark />}{' '}
      {column === null ? '…' : value === null ? '–' : of === 'brightnessHz' ? figure(value / 1_000, 2) : figure(value, 1, of === 'edgeDb')}
    </td>
  )
}

/** dB between two columns, or % of brightness; null where one of them is silent of it. */
function apart(key: Key, a: TransferColumn | null, b: TransferColumn | null): number | null {
  const [x, y] = [a?.[key] ?? null, b?.[key] ?? null]
  if (x === null || y === null) return null
  return key === 'brightnessHz' ? 100 * (y / x - 1) : y - x
}
